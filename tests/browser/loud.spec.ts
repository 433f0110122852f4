import { readFileSync } from 'node:fs';
import { both, noise, sine } from '../support/signals';
import { expect, test } from './test';

const RATE = 44100;
test.beforeEach(({ desk }) => desk.listen());

test('the clipper tells what it took, warns of a bare tone, and lets only what it cuts be heard', async ({
  page,
  desk,
}) => {
  await desk.openNewTrack('tone.wav', both(sine(1000, -3, 40, RATE)), RATE);
  await desk.addStage('Clipper', 1);
  const took = page.getByLabel('What the clipper cuts');
  await expect(took).toContainText('0.0 / 0.0 dB');
  await desk.setValue('Ceiling', '-9');
  await desk.checked();
  await expect(took).toContainText(/shaved, at most\s*6\.0 \/ 6\.0 dB/);
  // A sine is above half of itself for two thirds of the time.
  await expect(took).toContainText(/touched\s*6\d\.\d\d \/ 6\d\.\d\d %/);
  await expect(desk.stage('Clipper')).toContainText('−6.0 dB');
  await expect(page.getByText(/^▲ Exposed/)).toBeVisible();

  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect.poll(() => desk.heard(1000)).toBeGreaterThan(-20);
  await expect.poll(() => desk.heard(3000)).toBeGreaterThan(-50);
  await desk.filled();
  const [tone, third] = [await desk.heard(1000), await desk.heard(3000)];
  await page.getByRole('button', { name: 'Hear what’s cut' }).click();
  // The harmonic is all in what was cut off; of the tone 1 − b1, which the closed form puts at 0.391 against 0.609.
  const change = async () => (await desk.heard(1000)) - (await desk.heard(3000)) - (tone - third);
  await expect.poll(async () => Math.abs((await change()) - 20 * Math.log10(0.391 / 0.609))).toBeLessThan(0.3);
  await page.getByRole('button', { name: 'Hear what’s cut' }).click();
  await expect.poll(async () => Math.abs((await desk.heard(1000)) - tone)).toBeLessThan(0.5);

  const divider = page.getByRole('separator', { name: 'Height of the tips' });
  await divider.press('ArrowDown');
  await expect(divider).toHaveAttribute('aria-valuenow', '65');
  await desk.saved();
  await page.reload();
  await desk.checked();
  await expect(divider).toHaveAttribute('aria-valuenow', '65');
});

test('saturation adds the harmonics of its curve and holds the loudness', async ({ page, desk }) => {
  await desk.openNewTrack('plain.wav', both(sine(1000, -8, 40, RATE)), RATE);
  await desk.addStage('Saturation', 1);
  await desk.setValue('Drive', '18');
  await desk.checked();
  await expect(desk.levels()).toContainText(/in−8\.\d/);
  // Held by measurement, whatever the curve does.
  await expect(desk.levels()).toContainText(/out−(7\.9|8\.[01])/, { timeout: 20_000 });
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect.poll(async () => (await desk.heard(3000)) - (await desk.heard(1000))).toBeGreaterThan(-25);
  expect((await desk.heard(2000)) - (await desk.heard(1000))).toBeLessThan(-60);
  await page.getByRole('combobox', { name: 'Curve' }).click();
  await page.getByRole('option', { name: 'Even' }).click();
  await expect.poll(async () => (await desk.heard(2000)) - (await desk.heard(1000))).toBeGreaterThan(-50);
  await expect.poll(async () => (await desk.heard(3000)) - (await desk.heard(1000))).toBeLessThan(-60);
  await expect(page.getByText('Adds even harmonics and nothing else.')).toBeVisible();
  await page.getByRole('button', { name: 'Sampling' }).click();
  await page.getByRole('combobox', { name: 'While listening' }).click();
  await page.getByRole('option', { name: /^8×/ }).click();
  // Never lower for the delivery.
  await expect(page.getByRole('combobox', { name: 'For delivery' })).toContainText('8×');
});

test('a limiter rattles when it recovers too fast, and is heard without the gain it was given', async ({
  page,
  desk,
}) => {
  await desk.openNewTrack('bass.wav', both(sine(50, -3, 40, RATE)), RATE);
  await desk.addStage('Limiter', 1);
  await desk.setValue('Input gain', '6');
  await desk.setValue('Recovery', '10');
  // Less than half a wave of the bass.
  await desk.setValue('Look-ahead', '1');
  await desk.checked();
  await expect(page.getByText(/it rattles/)).toBeVisible();
  await desk.setValue('Recovery', '1000');
  await desk.checked();
  await expect(page.getByText(/it rattles/)).toBeHidden();
  const loudness = await page.getByRole('article', { name: 'Streaming' }).textContent();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect.poll(() => desk.heard(50)).toBeGreaterThan(-30);
  const full = await desk.heard(50);
  await page.getByText('Listen without the gain').click();
  await expect.poll(async () => (await desk.heard(50)) - full).toBeLessThan(-5.5);
  await desk.checked();
  // Only while listening.
  expect(await page.getByRole('article', { name: 'Streaming' }).textContent()).toBe(loudness);
});

test('two limiters come as a pair, and the gain staging tells which stage took the punch, in a file too', async ({
  page,
  desk,
}) => {
  const beats = noise(8 * RATE, 0.9).map((x, i) => x * Math.exp(-(i % 22050) / 900) + 0.02 * Math.sin(i / 20));
  await desk.openNewTrack('beats.wav', both(beats), RATE);
  await desk.addStage('Two limiters', 1);
  await expect(desk.stage('Safety')).toBeVisible();
  await page.getByRole('button', { name: 'Stage menu' }).click();
  await page.getByRole('menuitem', { name: /^Name…/ }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('Drive, warm');
  await page.getByRole('textbox', { name: 'Name' }).press('Enter');
  await expect(desk.stage('Drive, warm')).toBeVisible();
  await desk.setValue('Input gain', '12');
  await desk.checked();
  await page.keyboard.press('g');
  const table = page.getByRole('table', { name: 'Gain staging' });
  await expect(table.getByRole('row')).toHaveCount(3);
  // White noise has peaks between its samples, which the first does not look at.
  await expect(page.getByText(/^Most of the punch went in “Safety”/)).toBeVisible();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as CSV' }).click();
  const file = await download;
  expect(file.suggestedFilename()).toMatch(/gain staging\.csv$/);
  const [head, first, second, ...rest] = readFileSync(await file.path(), 'utf8').split(/\r?\n/);
  expect(head).toContain('In LUFS,In dBTP,In PLR LU');
  expect(first).toMatch(/^"Drive, warm",yes,/);
  expect(second).toMatch(/^Safety,yes,/);
  expect(rest.filter((line) => line !== '')).toEqual([]);
});

test('two versions are compared at one loudness', async ({ page, desk }) => {
  const beats = noise(8 * RATE, 0.5).map((x, i) => x * Math.exp(-(i % 22050) / 2500) + 0.1 * Math.sin(i / 20));
  await desk.openNewTrack('versions.wav', both(beats), RATE);
  await desk.addStage('Limiter', 1);
  const versions = page.getByRole('combobox', { name: 'Version' });
  await versions.click();
  await page.getByRole('option', { name: 'Save as a new version…' }).click();
  await page.getByLabel('Name').fill('Clipped');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(versions).toContainText('Clipped');
  await desk.addStage('Clipper', 1);
  await desk.setValue('Ceiling', '-4');
  await desk.checked();
  await desk.saved();
  await page.keyboard.press('g');
  await page.getByRole('button', { name: 'Compare versions at equal loudness…' }).click();
  await page.getByRole('textbox', { name: 'Loudness, LUFS' }).fill('-11');
  await page.getByRole('button', { name: 'Measure' }).click();
  const rows = page.getByRole('table', { name: 'Versions at equal loudness' }).getByRole('row');
  await expect(rows).toHaveCount(3, { timeout: 150_000 });
  for (const i of [1, 2]) await expect(rows.nth(i)).toContainText(/−1[01]\.(9\d|0\d|10)/);
  await expect(rows.filter({ hasText: 'Clipped' })).toContainText('clipper, input gain');
  // What cannot be a loudness is told in words.
  await page.getByRole('textbox', { name: 'Loudness, LUFS' }).fill('loud');
  await page.getByRole('button', { name: 'Measure' }).click();
  await expect(page.getByText('Give a loudness in LUFS, such as −12.')).toBeVisible();
});
