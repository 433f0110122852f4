import { expect, test } from '@playwright/test';
import { both, sine } from '../support/signals';
import { wave } from '../support/wave';
import { Desk } from './desk';

let desk: Desk;
test.beforeEach(async ({ page }) => {
  desk = new Desk(page);
  await desk.signIn();
});

test('a mix that is better sent back comes with a text for the client', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await page.getByRole('link', { name: /Slow Orbits/ }).click();
  await page.getByRole('button', { name: 'Copy a note to the client' }).click();
  await expect(page.getByRole('button', { name: 'Copied: paste it into a mail' })).toBeVisible();
  const text = await page.evaluate(() => navigator.clipboard.readText());
  expect(text).toContain('Thank you for “Debris Field”');
  expect(text).toMatch(/- Clipped: \d+ runs/);
});

test('what was planted in the other pieces is found, with its figure', async ({ page }) => {
  await page.getByRole('link', { name: /Slow Orbits/ }).click();
  const findings = (title: string) =>
    page.getByRole('article', { name: title }).getByRole('list', { name: 'Findings' });
  await expect(findings('Undertow')).toContainText(/Below 120 Hz the correlation of the sides is −0\.9/);
  await expect(findings('Long Dusk')).toContainText(/The loudness range is 2\d\.\d LU/);
  await expect(findings('Zodiacal Light')).toContainText(
    /Nothing sounds above 2[01]\.\d kHz, as if it had been converted up from 44\.1 kHz/,
  );
  await expect(page.getByRole('article', { name: 'Perihelion' })).toContainText('Nothing stands in the way');
});

test('several mixes become tracks in one picture, with all their figures, and one walks from one to the next', async ({
  page,
}) => {
  await page.getByLabel('Mixes to put in').setInputFiles([
    { name: 'One.wav', mimeType: 'audio/wav', buffer: wave(both(sine(997, -14, 4, 44100)), 44100) },
    { name: 'Two.wav', mimeType: 'audio/wav', buffer: wave(both(sine(997, -24, 4, 48000)), 48000) },
  ]);
  await expect(page.getByRole('link', { name: 'Open' })).toHaveCount(2, { timeout: 60_000 });
  await expect(page.getByRole('img', { name: /^Integrated loudness of the mixes/ })).toHaveAccessibleName(
    /1 · One −14\.0 LUFS, 2 · Two −24\.0 LUFS/,
  );
  const first = page.getByRole('article', { name: 'One' });
  await first.getByRole('button', { name: 'All figures' }).click();
  await expect(first).toContainText('Integrated−14.0 LUFS');
  await expect(first).toContainText('Sample peak L / R−14.0 / −14.0 dBFS');
  await expect(first).toContainText('Correlation1.00');
  await first.getByRole('link', { name: 'Open' }).click();
  await desk.passed();
  await page.getByRole('link', { name: 'Next track' }).click();
  await expect(page.getByText('2 · Two')).toBeVisible();
  await desk.passed();
  // Broadcast wants −23: a tone of −24 is quiet by 1, with room to raise it.
  await expect(page.getByRole('article', { name: 'Broadcast' })).toContainText('Raise by 1.0 dB at delivery');
});

test('a version is kept under a name, and each has a lane of its own', async ({ page }) => {
  await desk.openNewTrack('versions.wav', both(sine(997, -20, 4, 44100)), 44100);
  await desk.addStage('Trim', 1);
  await desk.setValue('Gain', '-2');
  await desk.saved();
  await page.getByRole('combobox', { name: 'Version' }).click();
  await page.getByRole('option', { name: /Keep this as a new version/ }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('Quieter');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByRole('combobox', { name: 'Version' })).toHaveText('Version: Quieter');
  await desk.setValue('Gain', '-9');
  await desk.saved();
  await page.getByRole('combobox', { name: 'Version' }).click();
  await page.getByRole('option', { name: 'First version' }).click();
  await expect(desk.stage('Trim')).toHaveAccessibleName(/−2\.0 dB/);
  await page.reload();
  await desk.passed();
  await expect(page.getByRole('combobox', { name: 'Version' })).toHaveText('Version: First version');
});
