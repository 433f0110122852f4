// The workspace in windows of other sizes than the usual one.
import type { Page } from '@playwright/test';
import type { TrackDetails } from '@/contracts/track';
import { music } from '../support/music';
import { violations } from './axe';
import { expect, test } from './test';

test.beforeEach(async ({ desk }) => {
  await desk.openDemoTrack('Perihelion');
});

/** What reaches beyond the window at the right, or is wider inside than its place without an ellipsis or a way to scroll. */
const cutOff = (page: Page) =>
  page.evaluate(() =>
    [...document.querySelectorAll('header *, [role="toolbar"] *, [aria-label="Lane"] *')]
      .filter((element) => {
        const { right, width } = element.getBoundingClientRect();
        const { textOverflow, overflowX } = getComputedStyle(element);
        const shown = width > 0 && element.checkVisibility();
        const inside =
          element.scrollWidth > element.clientWidth + 1 && overflowX === 'hidden' && textOverflow !== 'ellipsis';
        return shown && (right > window.innerWidth + 1 || inside);
      })
      .map((element) => `${element.tagName} ${element.getAttribute('aria-label') ?? element.textContent}`),
  );
const overflow = (page: Page) => page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);

test('at 1024×768 the destinations fold away and say how many are met; the workspace stays whole', async ({
  page,
  desk,
}) => {
  await page.setViewportSize({ width: 1024, height: 768 });
  await expect(page.getByRole('complementary', { name: 'Destinations' })).toHaveCount(0);
  await expect.poll(() => overflow(page)).toBeLessThanOrEqual(0);
  await expect.poll(() => cutOff(page)).toEqual([]);
  await desk.stage('Equalizer').click();
  await expect.poll(() => overflow(page)).toBeLessThanOrEqual(0);
  await page.getByRole('button', { name: 'Meets 2 of 3' }).click();
  const column = page.getByRole('complementary', { name: 'Destinations' });
  await expect(column.getByRole('article', { name: 'Broadcast' })).toContainText('too loud');
  expect(await violations(page, 'destinations')).toEqual([]);
  await page.keyboard.press('Escape');
  await expect(column).toHaveCount(0);
  await expect(page.getByRole('button', { name: 'Meets 2 of 3' })).toBeFocused();
});

test('on a phone one listens, sees the verdicts and delivers', async ({ page, desk }) => {
  await desk.openNewTrack('On the way.wav', music(30, 44100, 0.35), 44100);
  for (const [width, height] of [
    [390, 844],
    [360, 740],
  ]) {
    await page.setViewportSize({ width, height });
    await expect.poll(() => overflow(page)).toBeLessThanOrEqual(0);
    await expect.poll(() => cutOff(page)).toEqual([]);
  }
  expect(await violations(page, 'phone')).toEqual([]);
  await expect(page.getByRole('region', { name: 'Lane' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect.poll(() => desk.position()).toBeGreaterThan(0.5);
  await expect(page.getByLabel('Momentary loudness, LUFS')).toHaveText(/−\d/);
  await page.getByRole('button', { name: '1 Mix' }).click();
  await page.getByRole('slider', { name: /^Programme/ }).click({ position: { x: 180, y: 40 } });
  await expect.poll(() => desk.position()).toBeGreaterThan(12);
  await page.getByRole('button', { name: 'Pause', exact: true }).click();
  await expect(page.getByRole('article', { name: 'Disc' })).toContainText('meets');
  await page.getByRole('button', { name: 'Deliver…' }).click();
  await page.getByRole('radio', { name: /Disc/ }).check();
  await expect.poll(() => overflow(page)).toBeLessThanOrEqual(0);
  await page.getByRole('button', { name: 'Start delivery' }).click();
  await expect(page.getByText('The finished file meets its destination.')).toBeVisible({ timeout: 150_000 });
  await expect.poll(() => overflow(page)).toBeLessThanOrEqual(0);
});

test('at 1920×1080 meters and history stay open next to the stage, and any step is gone back to', async ({
  page,
  desk,
}) => {
  await page.setViewportSize({ width: 1920, height: 1080 });
  const beside = page.getByRole('complementary', { name: 'Meters and history' });
  const integrated = beside.getByRole('row', { name: /^Integrated/ });
  const verdict = page.getByRole('article', { name: 'Streaming' }).locator('dd').first();
  await expect(integrated).toContainText((await verdict.textContent())!.replace(' LUFS', ''));
  await expect.poll(() => cutOff(page)).toEqual([]);
  expect(await violations(page, 'wide')).toEqual([]);
  await desk.stage('Trim').first().click();
  for (const gain of ['-1', '-2', '-3']) {
    await desk.setValue('Gain', gain);
    await desk.saved();
  }
  const history = beside.getByRole('region', { name: 'History' });
  const steps = history.getByRole('button', { name: /^(?!New version)/ });
  await expect(steps.nth(2)).toHaveText(/^Gain: .* → −1\.0 dB(?!now)/);
  await expect(steps.nth(0)).toHaveText(/^Gain: −2\.0 → −3\.0 dBnow/);
  await desk.checked();
  await expect(steps.nth(0)).toHaveText(/ dBnow−\d+\.\d LUFS {2}−\d\.\d dBTP {2}PLR \d+\.\d$/);
  await steps.nth(2).click();
  await expect(steps.nth(2)).toHaveText(/ → −1\.0 dBnow/);
  await expect(steps.nth(0)).toHaveText(/ → −3\.0 dBundone/);
  await expect(desk.stage('Trim').first()).toHaveAccessibleName(/−1\.0 dB/);
  await steps.nth(0).click();
  await expect(desk.stage('Trim').first()).toHaveAccessibleName(/−3\.0 dB/);
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(beside.getByRole('row', { name: /^Momentary −\d/ })).toBeVisible();
  // A version from the step before: it is open then, and begins a history of its own.
  await history.getByRole('button', { name: 'New version from “Gain: −1.0 → −2.0 dB”' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('Two steps');
  await page.getByRole('button', { name: 'Create' }).click();
  await expect(page.getByRole('combobox', { name: 'Version' })).toHaveText('Version: Two steps');
  await expect(desk.stage('Trim').first()).toHaveAccessibleName(/−2\.0 dB/);
  await expect(steps).toHaveCount(1);
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.getByRole('button', { name: 'History' }).click();
  await expect(page.getByRole('dialog', { name: 'History' }).getByRole('button', { name: /^Start/ })).toBeVisible();
  expect(await violations(page, 'history')).toEqual([]);
  await page.keyboard.press('Escape');
  await page.setViewportSize({ width: 1920, height: 1080 });
  await page.getByRole('combobox', { name: 'Version' }).click();
  await page.getByRole('option', { name: 'First version', exact: false }).first().click();
  // The demo is used by other tests as it was.
  const track = `/api/tracks/${new URL(page.url()).pathname.split('/').at(-1)}`;
  const { versions } = (await (await page.request.get(track)).json()) as TrackDetails;
  const { id } = versions.find(({ name }) => name === 'Two steps')!;
  expect((await page.request.delete(`/api/versions/${id}`)).status()).toBe(204);
  await page.getByRole('button', { name: 'Pause', exact: true }).click();
  await steps.nth(3).click();
  await desk.saved();
});
