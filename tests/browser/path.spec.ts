import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { ebur128 } from '../support/ffmpeg';
import { music } from '../support/music';
import { expect, test } from './test';

test('from a mix to a proven master', async ({ page, desk }) => {
  test.setTimeout(180_000);
  await desk.listen();
  await desk.openNewTrack('Night walk.wav', music(15, 44100, 0.35), 44100);

  await desk.addStage('Equalizer', 1);
  await desk.addStage('Limiter', 2);
  await desk.setValue('Input gain', '6');

  await desk.stage('Equalizer').click();
  await page.getByRole('button', { name: 'Add band' }).click();
  await desk.setValue('Frequency', '880');
  await desk.setValue('Q', '4');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect.poll(() => desk.heard(880), { timeout: 15_000 }).toBeGreaterThan(-80);
  // A chord tone at 880 Hz sounds throughout: pulling the band down must be heard, not just shown.
  const before = await desk.heard(880);
  const handle = page.getByRole('slider', { name: /^Band 1/ });
  const box = (await handle.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2 + 110, { steps: 8 });
  await page.mouse.up();
  await expect(handle).toHaveAttribute('aria-valuetext', /−/);
  await expect.poll(() => desk.heard(880), { timeout: 15_000 }).toBeLessThan(before - 5);
  await page.getByRole('button', { name: 'Pause', exact: true }).click();
  await desk.saved();

  // The verdict answers the lane: broadcast is too loud, by an amount that a trim changes.
  const broadcast = page.getByRole('article', { name: 'Broadcast' });
  await expect(broadcast).toContainText('too loud');
  const loudness = async () =>
    Number((await broadcast.locator('dd').first().textContent())!.replace('−', '-').replace(' LUFS', ''));
  const loud = await loudness();
  await desk.stage('Limiter').click();
  await desk.setValue('Input gain', '-4');
  await expect.poll(loudness).toBeLessThan(loud - 6);
  await desk.checked();

  await page.getByRole('button', { name: 'Deliver…' }).click();
  await page.getByRole('radio', { name: /Broadcast/ }).check();
  const adjust = page.getByRole('checkbox', { name: /to meet the loudness/ });
  if (await adjust.isVisible()) await adjust.check();
  await page.getByRole('button', { name: 'Start delivery' }).click();
  await expect(page.getByText('The finished file meets its destination.')).toBeVisible({ timeout: 150_000 });

  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Download file' }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('Night walk - 01 Night walk (Broadcast).wav');
  const file = await download.path();
  const shown = await page
    .getByText(/^[0-9a-f]{64}$/)
    .first()
    .textContent();
  expect(createHash('sha256').update(readFileSync(file)).digest('hex')).toBe(shown);
  const { integrated, truePeak } = ebur128(file);
  expect(Math.abs(integrated + 23)).toBeLessThanOrEqual(0.5);
  expect(truePeak).toBeLessThanOrEqual(-1);
});
