// What keyboards and screen readers get: no violation on any page, dialog, stage and theme, a ring around whatever has the
// focus, and keys that work wherever it is.
import type { Page } from '@playwright/test';
import { newStage } from '@/core/lane/schema';
import { STAGE_KINDS } from '@/core/stages/registry';
import type { TrackDetails } from '@/contracts/track';
import { music } from '../support/music';
import { violationsInBothThemes } from './axe';
import type { Desk } from './desk';
import { expect, test } from './test';

/** A track whose lane has a stage of every kind, open. */
async function openEveryStage({ page, desk }: { page: Page; desk: Desk }): Promise<void> {
  await desk.openNewTrack('Every stage.wav', music(3, 44100), 44100);
  const id = new URL(page.url()).pathname.split('/').at(-1);
  const { versions } = (await (await page.request.get(`/api/tracks/${id}`)).json()) as TrackDetails;
  const lane = { ...versions[0].lane, stages: STAGE_KINDS.map((kind) => newStage(kind, kind)) };
  const saved = await page.request.put(`/api/versions/${versions[0].id}/lane`, {
    data: { lane, label: 'Every stage', after: versions[0].step },
  });
  expect(saved.status()).toBe(200);
  await page.reload();
  await desk.checked();
}

const stops = (page: Page) => page.getByRole('region', { name: 'Lane' }).locator('button[aria-pressed]');

/** Collects what axe finds in one place after the other. */
function scan(page: Page) {
  const found: string[] = [];
  const at = async (where: string, within?: string) =>
    void found.push(...(await violationsInBothThemes(page, where, within)));
  return { found, at };
}

test('axe finds nothing on any page and its dialogs, in both themes', async ({ page, desk }) => {
  const { found, at } = scan(page);
  await desk.haveDemo();
  await page.goto('/');
  await expect(page.getByRole('link', { name: /Slow Orbits/ })).toBeVisible();
  await at('releases');
  await page.getByRole('button', { name: 'New release' }).click();
  await expect(page.getByRole('dialog')).toBeVisible();
  await at('new release');
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: /Slow Orbits/ }).click();
  await page.getByRole('button', { name: 'More for Perihelion' }).click();
  await at('actions of a track');
  await page.getByRole('menuitem', { name: 'Particulars…' }).click();
  await expect(page.getByRole('dialog')).toBeVisible();
  await at('particulars');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'All figures' }).first().click();
  await at('release');
  await page.getByRole('button', { name: 'Deliver…' }).click();
  await expect(page.getByRole('dialog')).toBeVisible();
  await at('deliver a release');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toBeHidden();
  await page.getByRole('button', { name: 'Listening page…' }).click();
  await expect(page.getByRole('form', { name: 'New listening link' })).toBeVisible();
  await at('a listening link');
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: 'Sequence' }).click();
  await expect(page.getByText(/album −/)).toBeVisible();
  await at('sequence');
  for (const name of ['Level…', 'Image…']) {
    await page.getByRole('button', { name, exact: true }).click();
    await expect(page.getByRole('dialog')).toBeVisible();
    await at(name);
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog')).toBeHidden();
  }
  await page.goto('/settings');
  await expect(page.getByRole('list', { name: 'Signed-in browsers' })).toBeVisible();
  await at('settings');
  await page.goto('/nowhere');
  await expect(page.getByRole('heading', { name: 'There is nothing here' })).toBeVisible();
  await at('an unknown address');
  expect(found).toEqual([]);
});

test('axe finds nothing in the workspace, its stages and its dialogs, in both themes', async ({ page, desk }) => {
  const { found, at } = scan(page);
  await openEveryStage({ page, desk });
  await at('workspace');
  for (const name of ['Candidates', 'Listen to: Stereo']) {
    await page.getByRole('button', { name, exact: true }).click();
    await expect(page.getByRole('dialog')).toBeVisible();
    await at(name);
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog')).toBeHidden();
  }
  for (let i = 0; i < (await stops(page).count()); i++) {
    await stops(page).nth(i).click();
    await at((await stops(page).nth(i).getAttribute('aria-label')) ?? '', '[aria-label$=" stage"]');
  }
  const begin = async (item: RegExp) => {
    await page.getByRole('button', { name: 'Lanes', exact: true }).click();
    await page.getByRole('menuitem', { name: item }).click();
  };
  const leave = async () => {
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog')).toBeHidden();
  };
  await begin(/^First draft…/);
  await expect(page.getByRole('status').getByText(/^Comes to/)).toBeVisible();
  await at('first draft');
  await leave();
  await begin(/^House lanes…/);
  await page.getByRole('button', { name: /^Even finish/ }).click();
  await at('house lanes');
  await leave();
  await begin(/^Save as a house lane…/);
  await expect(page.getByRole('dialog')).toBeVisible();
  await at('save a house lane');
  await leave();
  await page.getByRole('article', { name: 'Streaming' }).getByRole('button', { name: 'Meet…' }).click();
  await expect(page.getByRole('table', { name: 'Ways to meet it' })).toBeVisible();
  await at('meet');
  await leave();
  await begin(/^Add handles/);
  await at('handles', '[aria-label="Handles"]');
  for (const key of ['?', 'g', 'a', 'f', 'Control+Enter']) {
    await page.keyboard.press(key);
    await expect(page.getByRole('dialog').or(page.getByRole('menu'))).toBeVisible();
    await at(`the key ${key}`);
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog').or(page.getByRole('menu'))).toBeHidden();
  }
  expect(found).toEqual([]);
});

test('everything that takes the focus shows a ring, and Add and Deliver are among the first five stops', async ({
  page,
  desk,
}) => {
  await openEveryStage({ page, desk });
  for (const theme of ['daylight', 'night']) {
    const bare: string[] = [];
    const names: string[] = [];
    // As the page is opened: the first stop is the page's own.
    await page.reload();
    await desk.checked();
    for (let i = 0; i < 200; i++) {
      await page.keyboard.press('Tab');
      const stop = await page.evaluate(() => {
        const element = document.activeElement as HTMLElement;
        if (element === document.body) return null;
        // The ring may be around the control that an invisible field stands in.
        let ringed: HTMLElement | null = element;
        const ring = (each: HTMLElement) => {
          const { outlineStyle, outlineWidth } = getComputedStyle(each);
          return outlineStyle !== 'none' && parseFloat(outlineWidth) >= 2;
        };
        for (let up = 0; up < 4 && ringed && !ring(ringed); up++) ringed = ringed.parentElement;
        const name = element.getAttribute('aria-label') ?? element.textContent;
        return { name: `${element.tagName} ${name}`, ringed: ringed !== null && ring(ringed) };
      });
      if (stop === null || (i > 5 && stop.name === names[0])) break;
      names.push(stop.name);
      if (!stop.ringed) bare.push(stop.name);
    }
    expect(names.length).toBeGreaterThan(40);
    expect(bare).toEqual([]);
    expect(names.slice(0, 5)).toEqual(expect.arrayContaining(['BUTTON Add a stage', 'BUTTON Deliver']));
    await page.getByRole('button', { name: theme === 'daylight' ? 'Night theme' : 'Daylight theme' }).click();
  }
});

test('Space plays after the mouse touched a slider, a switch or a list; on a focused button it presses that', async ({
  page,
  desk,
}) => {
  await openEveryStage({ page, desk });
  const play = page.getByRole('button', { name: 'Play', exact: true });
  const pause = page.getByRole('button', { name: 'Pause', exact: true });
  const plays = async () => {
    await page.keyboard.press('Space');
    await expect(pause).toBeVisible();
    await page.keyboard.press('Space');
    await expect(play).toBeVisible();
  };
  await desk.stage('Compressor').click();
  // Its thumb lies above the slider itself.
  await page.getByRole('slider', { name: 'Threshold', exact: true }).click({ force: true });
  await plays();
  await page.keyboard.press('Shift+Digit3');
  await expect(stops(page).nth(2)).toHaveAttribute('aria-pressed', 'true');
  await desk.stage('Compressor').click();
  const toggle = page.getByRole('region', { name: 'Compressor stage' }).getByRole('switch').first();
  const was = await toggle.isChecked();
  await toggle.click();
  await plays();
  expect(await toggle.isChecked()).toBe(!was);
  const list = page.getByRole('combobox', { name: 'Level matching' });
  await list.click();
  await page.getByRole('option', { name: 'Match true peak' }).click();
  await plays();
  await page.getByRole('button', { name: 'Loop', exact: true }).focus();
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Loop', exact: true })).toHaveAttribute('aria-pressed', 'true');
  await expect(play).toBeVisible();
});

test('a long lane scrolls: the open stage is seen with its whole name, beside the master’s figures', async ({
  page,
  desk,
}) => {
  await openEveryStage({ page, desk });
  const lane = (await page.getByRole('region', { name: 'Lane' }).boundingBox())!;
  for (const digit of ['9', '1', '8']) {
    await page.keyboard.press(`Shift+Digit${digit}`);
    const stop = stops(page).nth(Number(digit) - 1);
    await expect(stop).toHaveAttribute('aria-pressed', 'true');
    // What lies above its middle and both ends is the stop itself.
    await expect
      .poll(() =>
        stop.evaluate((element) => {
          const { left, right, top, height } = element.getBoundingClientRect();
          return [left + 8, (left + right) / 2, right - 30].every((x) =>
            element.contains(document.elementFromPoint(x, top + height - 8)),
          );
        }),
      )
      .toBe(true);
    const [title] = await stop.locator('div').all();
    expect(await title.evaluate(({ scrollWidth, clientWidth }) => scrollWidth <= clientWidth + 1)).toBe(true);
  }
  const box = (await page.getByText('master', { exact: true }).boundingBox())!;
  expect(box.x + box.width).toBeLessThanOrEqual(lane.x + lane.width);
});

test('loop, zoom, a new stage and delivery by key; the focus never falls to the page', async ({ page, desk }) => {
  await desk.openNewTrack('Keys.wav', music(8, 44100), 44100);
  const focused = () => page.evaluate(() => document.activeElement !== document.body);
  await page.keyboard.press('a');
  await page.getByRole('menuitem', { name: /^Trim/ }).press('Enter');
  await expect(desk.stage('Trim')).toBeFocused();
  await desk.setValue('Gain', '+4 dB');
  await expect(page.getByRole('textbox', { name: 'Gain value' })).toHaveValue('4.0');
  await expect.poll(focused).toBe(true);
  // The keys of the page work at once after a value was typed.
  await page.keyboard.press('d');
  await expect(desk.stage('Trim')).toHaveCount(2);
  await desk.stage('Trim').first().focus();
  await page.keyboard.press('Delete');
  await expect(desk.stage('Trim')).toHaveCount(1);
  await expect.poll(focused).toBe(true);
  await page.keyboard.press('ArrowRight');
  await expect(page.getByTestId('position')).toHaveText('0:05.0');
  await page.keyboard.press('.');
  await expect(page.getByRole('button', { name: 'Loop', exact: true })).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('dialog', { name: /^Deliver/ })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toBeHidden();
  await expect.poll(focused).toBe(true);
});
