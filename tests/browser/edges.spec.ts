import { readFileSync } from 'node:fs';
import { ffmpegSamples } from '../support/ffmpeg';
import { both, sine } from '../support/signals';
import { expect, test } from './test';

const RATE = 44100;

test('where a track starts and ends is set, heard, delivered to the sample, and undone', async ({ page, desk }) => {
  await desk.listen();
  const tone = sine(997, -12, 30, RATE);
  const mix = new Float64Array(34 * RATE);
  mix.set(tone, 2 * RATE);
  await desk.openNewTrack('edges.wav', both(mix), RATE);
  await desk.checked();
  await page.keyboard.press('f');
  const dialog = page.getByRole('dialog', { name: 'Edges' });
  await expect(dialog).toContainText('Intake found 2.00 s of silence at the start and 2.00 s at the end.');
  await dialog.getByRole('button', { name: 'Cut the silence' }).click();
  await expect(dialog.getByRole('textbox', { name: 'Start at' })).toHaveValue('0:01.9500');
  await expect(dialog.getByRole('textbox', { name: 'End at' })).toHaveValue('0:33.0000');
  const type = async (name: string, value: string) => {
    await dialog.getByRole('textbox', { name, exact: true }).fill(value);
    await dialog.getByRole('textbox', { name, exact: true }).press('Enter');
  };
  await type('Start at', '10');
  await type('End at', '2');
  await expect(dialog.getByRole('alert')).toContainText('A track ends at least 0.1 s after it starts.');
  await type('End at', '0:28');
  await type('Fade-in', '0.5');
  await type('Fade-out', '1,25');
  await type('Silence after', '0.25');
  await expect(dialog.getByRole('status')).toHaveText('The file will be 0:18.250 long.');
  // The dialog follows the history; a field that has the focus would take the keys for itself.
  await dialog.getByRole('slider', { name: /^End/ }).focus();
  await page.keyboard.press('Control+z');
  await expect(dialog.getByRole('status')).toHaveText('The file will be 0:18.000 long.');
  await page.keyboard.press('Control+Shift+z');
  await expect(dialog.getByRole('status')).toHaveText('The file will be 0:18.250 long.');
  // One frame by key.
  const start = dialog.getByRole('slider', { name: /^Start/ });
  await start.press('Shift+ArrowRight');
  await expect(start).toHaveAttribute('aria-valuenow', String(10 * RATE + 1));
  await start.press('Shift+ArrowLeft');
  // A drag ends at a zero crossing of the tone.
  const box = (await start.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.6, box.y + box.height / 2, { steps: 4 });
  await page.mouse.up();
  const dragged = Number(await start.getAttribute('aria-valuenow'));
  expect(dragged).toBeGreaterThan(10 * RATE + 1000);
  expect(Math.abs(mix[dragged])).toBeLessThan(Math.abs(mix[dragged - 3]) + Math.abs(mix[dragged + 3]));
  expect(Math.sign(mix[dragged - 1])).not.toBe(Math.sign(mix[dragged]));
  await type('Start at', '10');
  await dialog.getByRole('button', { name: 'Close' }).click();
  await desk.saved();
  await desk.checked();

  // Before the start there is silence, after it there is sound.
  await page.keyboard.press('Home');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await desk.played(1);
  await desk.filled();
  expect(await desk.heard(997)).toBeLessThan(-90);
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await desk.played(1);
  await desk.filled();
  expect(await desk.heard(997)).toBeGreaterThan(-40);
  await page.getByRole('button', { name: 'Pause' }).click();

  await page.getByRole('button', { name: 'Deliver…' }).click();
  await page.getByRole('radio', { name: /Streaming/ }).check();
  await page.getByRole('button', { name: /^(Start delivery|Deliver although it misses)$/ }).click();
  const download = page.getByRole('link', { name: /^Download (file|anyway)$/ });
  await expect(download).toBeVisible();
  const [file] = await Promise.all([page.waitForEvent('download'), download.click()]);
  const samples = ffmpegSamples(readFileSync(await file.path()));
  expect(samples.length).toBe(2 * 18.25 * RATE);
  await expect(page.getByRole('region', { name: 'Receipt' })).toContainText(
    'from 0:10.000 to 0:28.000, fades in over 0.5 s (equal power), fades out over 1.25 s (s-curve), 0.25 s of silence after',
  );
});
