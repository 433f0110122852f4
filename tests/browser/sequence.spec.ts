import { readFileSync } from 'node:fs';
import { programme } from '../support/programme';
import { expect, test } from './test';

const RATE = 44100;

test('a release is put together: joints, order, level with one undo, and an image', async ({ page, desk }) => {
  const { left, right } = programme(8, RATE);
  const mix = (name: string, gain: number) => ({
    ...{ name, sampleRate: RATE },
    signal: { left: Float64Array.from(left, (x) => gain * x), right: Float64Array.from(right, (x) => gain * x) },
  });
  const { id } = await desk.newRelease('Two pieces', [mix('One.wav', 1), mix('Two.wav', 0.5)]);
  await desk.open(`/releases/${id}`);
  await page.getByRole('link', { name: 'Sequence' }).click();
  const table = page.getByRole('table', { name: 'Sequence' });
  const status = page.getByRole('status').first();
  await expect(status).toContainText(/^2 tracks, 0:18, album −\d+\.\d LUFS, loudest track −\d+\.\d LUFS$/);
  await expect(table.getByRole('row', { name: /^2 ·/ })).toContainText('0:10.00');

  // A segue follows at once, a crossfade begins before the end.
  const kind = page.getByRole('combobox', { name: 'How “Two” follows' });
  await kind.click();
  await page.getByRole('option', { name: 'Segue, no gap' }).click();
  await expect(table.getByRole('row', { name: /^2 ·/ })).toContainText('0:08.00');
  await kind.click();
  await page.getByRole('option', { name: 'Crossfade, equal power' }).click();
  await table.getByRole('textbox', { name: 'Over' }).fill('1.6');
  await table.getByRole('textbox', { name: 'Over' }).press('Enter');
  await expect(table.getByRole('row', { name: /^2 ·/ })).toContainText('0:06.40');
  const answer = page.waitForResponse(/\/joints\//);
  await page.getByRole('button', { name: 'Play the joint before “Two”' }).click();
  expect((await answer).status()).toBe(200);
  await expect(page.getByRole('button', { name: 'Stop the joint' })).toBeVisible();
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Play all joints' })).toBeVisible();

  // As loud as the first: 6 dB more for the second, taken back in one step.
  await page.getByRole('button', { name: 'Level…' }).click();
  const sheet = page.getByRole('dialog', { name: 'Level the release' });
  await sheet.getByRole('combobox', { name: 'How' }).click();
  await page.getByRole('option', { name: 'Every track as loud as one of them' }).click();
  await expect(sheet.getByRole('row', { name: /2 · Two/ })).toContainText('+6.0 dB');
  await sheet.getByRole('button', { name: 'Level the release' }).click();
  await expect(sheet).toHaveCount(0);
  const distance = (name: RegExp) => table.getByRole('row', { name });
  await expect(distance(/^2 ·/)).toContainText('0.0 LU to the album');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(distance(/^2 ·/)).toContainText(/−[3-6]\.\d LU to the album/);

  await page.getByRole('button', { name: 'More for Two' }).click();
  await page.getByRole('menuitem', { name: 'Move earlier' }).click();
  await expect(table.getByRole('row').nth(1)).toContainText('1 · Two');

  await page.getByRole('button', { name: 'Image…' }).click();
  const images = page.getByRole('dialog', { name: 'Image of the release' });
  await images.getByRole('button', { name: 'Make the image' }).click();
  const cue = images.getByRole('link', { name: 'Cue sheet' });
  await expect(cue).toBeVisible({ timeout: 60_000 });
  const [download] = await Promise.all([page.waitForEvent('download'), cue.click()]);
  expect(readFileSync(await download.path(), 'utf8')).toMatch(
    /TRACK 02 AUDIO[\s\S]*TITLE "One"[\s\S]*INDEX 01 00:10:00/,
  );
});
