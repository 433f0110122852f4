import { music } from '../support/music';
import { expect, test } from './test';

const RATE = 44100;

test('a limiter that works hard is observed, mended in one step and undone in one; its kind can be muted', async ({
  page,
  desk,
}) => {
  await desk.openNewTrack('loud.wav', music(12, RATE, 0.3), RATE);
  const list = page.getByRole('region', { name: 'Observations' });
  await desk.addStage('Limiter', 1);
  await desk.setValue('Input gain', '18');
  await desk.checked();
  const hard = list.getByRole('listitem', { name: 'Limiter works hard' });
  await expect(hard).toContainText(/takes up to \d+\.\d dB in the loudest passage/);
  await hard.getByRole('button', { name: /^Input gain −/ }).click();
  await desk.checked();
  await expect(hard).toHaveCount(0);
  // At most the 3 dB that the rule lets pass, as the lane's own figure says.
  await expect(desk.stage('Limiter')).toContainText(/−[0-3]\.\d dB/);
  await page.getByRole('button', { name: 'Undo' }).click();
  await desk.checked();
  await expect(hard).toBeVisible();
  await list.getByRole('button', { name: 'Mute “Limiter works hard”' }).click();
  await expect(hard).toHaveCount(0);
  await page.reload();
  await desk.checked();
  await expect(list.getByText(/^(\d+|nothing stands out)$/)).toBeVisible();
  await expect(hard).toHaveCount(0);
  await list.getByRole('button', { name: 'Show “Limiter works hard” again' }).click();
  await expect(hard).toBeVisible();
});
