// What hands do a hundred times a day: drag, turn, press, choose.
import type { Page } from '@playwright/test';
import { music } from '../support/music';
import { expect, test } from './test';

/** What the history of the open version says, the newest first. */
async function history(page: Page): Promise<string[]> {
  await page.getByRole('button', { name: 'History', exact: true }).click();
  const list = page.getByRole('dialog', { name: 'History' });
  await expect(list.getByText('now', { exact: true })).toBeVisible();
  const steps = await list.getByRole('listitem').allTextContents();
  await page.keyboard.press('Escape');
  // Until it has faded out it takes the mouse.
  await expect(page.locator('.MuiPopover-root')).toHaveCount(0);
  return steps;
}

test('a press is one step, however long it lasts; it says its values, and undo takes it back', async ({
  page,
  desk,
}) => {
  await desk.openNewTrack('Hands.wav', music(4, 44100, 0.3), 44100);
  await desk.addStage('Trim', 1);
  await desk.saved();
  const before = await history(page);
  const slider = page.getByRole('slider', { name: 'Gain', exact: true });
  const box = (await slider.locator('xpath=ancestor::*[contains(@class,"MuiSlider-root")]').boundingBox())!;
  const y = box.y + box.height / 2;
  await page.mouse.move(box.x + box.width / 2, y);
  await page.mouse.down();
  for (const share of [0.3, 0.35, 0.4, 0.45, 0.4]) {
    await page.mouse.move(box.x + share * box.width, y, { steps: 3 });
    // Held until what it comes to is measured: longer than any pause of a hand.
    await desk.checked();
    await expect(page.getByText('Saved', { exact: true })).toHaveCount(0);
  }
  await page.mouse.up();
  await desk.saved();
  const value = (await page.getByRole('textbox', { name: 'Gain value', exact: true }).inputValue()).trim();
  const [dragged, ...rest] = await history(page);
  expect(dragged).toContain(`Gain: 0.0 → ${value} dB`);
  expect(rest).toHaveLength(before.length);

  await slider.focus();
  await page.keyboard.press('ArrowRight');
  await desk.saved();
  const [pressed, ...others] = await history(page);
  expect(pressed).toContain(`Gain: ${value} → `);
  expect(others).toHaveLength(before.length + 1);
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('textbox', { name: 'Gain value', exact: true })).toHaveValue(value);
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('textbox', { name: 'Gain value', exact: true })).toHaveValue('0.0');
});

test('Space plays and pauses after whatever was pressed with the mouse', async ({ page, desk }) => {
  await desk.openNewTrack('Space.wav', music(6, 44100, 0.3), 44100);
  await desk.addStage('Trim', 1);
  const play = page.getByRole('button', { name: 'Play', exact: true });
  const pause = page.getByRole('button', { name: 'Pause', exact: true });
  const lane = page.getByRole('region', { name: 'Lane' });
  for (const button of [
    page.getByRole('button', { name: 'Loudest passage', exact: true }),
    page.getByRole('button', { name: /^1\b.*Mix/ }),
    page.getByRole('button', { name: /^2\b.*Master/ }),
    lane.getByRole('button', { name: /^Trim,/ }),
    page.getByRole('button', { name: 'Loop', exact: true }),
  ]) {
    await button.click();
    const pressed = await button.getAttribute('aria-pressed');
    await page.keyboard.press('Space');
    await expect(pause).toBeVisible();
    expect(await button.getAttribute('aria-pressed')).toBe(pressed);
    await page.keyboard.press('Space');
    await expect(play).toBeVisible();
  }
});

test('every choice of a number in a destination stays, and is there after saving', async ({ page, desk }) => {
  await desk.open('/destinations');
  await page.getByRole('button', { name: 'New destination' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('textbox', { name: 'Name', exact: true }).fill('Numbers');
  await dialog.getByRole('textbox', { name: 'Source of its figures' }).fill('A list');
  const choose = async (group: string, label: string, option: string) => {
    const choice = dialog.getByRole('group', { name: group }).getByRole('combobox', { name: label });
    await choice.click();
    await page.getByRole('option', { name: option, exact: true }).click();
    await expect(choice).toHaveText(option);
  };
  await choose('Sample rate', 'Rule', 'always');
  await choose('Sample rate', 'Rate', '96 kHz');
  await choose('Word length', 'Bits', '16 bits');
  await dialog.getByRole('button', { name: 'Add an encode' }).click();
  await choose('Encode 1', 'Codec', 'MP3');
  await choose('Encode 1', 'Rate', '128 kb/s');
  const sentence = dialog.getByRole('status');
  await expect(sentence).toContainText('MP3 128 kb/s, 96 kHz, never upsampled, 16-bit');
  await dialog.getByRole('button', { name: 'Put on the shelf' }).click();
  await expect(dialog).toBeHidden();
  await page.reload();
  const kept = page.getByRole('listitem').filter({ has: page.getByRole('heading', { name: 'Numbers' }) });
  await expect(kept).toContainText('MP3 128 kb/s, 96 kHz, never upsampled, 16-bit');
});

test('a lane larger than what a page may send while it is left is saved all the same', async ({ page, desk }) => {
  await desk.openNewTrack('Large.wav', music(2, 44100, 0.3), 44100);
  const bytes = await page.evaluate(async () => {
    const bands = Array.from({ length: 16 }, (_, i) => ({
      ...{ shape: 'bell', frequencyHz: 40 + 900 * i, gainDb: 0.0123456789012, q: 1.0123456789012, on: true },
    }));
    const stages = Array.from({ length: 11 }, (_, i) => ({
      ...{ id: `stage-${i}`, kind: 'equalizer', on: i === 0, settings: { bands } },
      alternatives: ['A', 'B', 'C', 'D'].map((name) => ({ name, settings: name === 'A' ? null : { bands } })),
    }));
    const id = location.pathname.split('/').at(-1);
    const { versions } = (await (await fetch(`/api/tracks/${id}`)).json()) as {
      versions: { id: string; step: number; lane: object }[];
    };
    const [{ id: version, step, lane }] = versions;
    const body = JSON.stringify({ lane: { ...lane, stages }, label: 'Large', after: step });
    const headers = { 'Content-Type': 'application/json' };
    const { status } = await fetch(`/api/versions/${version}/lane`, { method: 'PUT', headers, body });
    return status === 200 ? body.length : 0;
  });
  expect(bytes).toBeGreaterThan(64 * 1024);
  await page.reload();
  await desk.checked();
  await desk.addStage('Trim', 12);
  await desk.saved();
  await page.reload();
  await desk.checked();
  await expect(desk.stage('Trim')).toHaveCount(1);
});
