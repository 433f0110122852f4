// What an open track takes in memory, and that it is given back when it is closed.
import { mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { AT_LENGTH } from '../support/at-length';
import { ffmpeg } from '../support/ffmpeg';
import { pageBytes } from '../support/memory';
import { music } from '../support/music';
import { expect, test } from './test';

const SECONDS = 60;
const RATE = 44100;

/** How often a track is opened before memory is looked at again. */
const OPENINGS = AT_LENGTH ? 17 : 5;
/** The longest programme that a page promises to hold, and what it may take; in short, a quarter of it: what a page takes
 * besides stays, and one more copy of the mix would be told. */
const LONG = AT_LENGTH
  ? { seconds: 1200, sampleRate: 96000, bytes: 1.5e9 }
  : { seconds: 300, sampleRate: 96000, bytes: 1.1e9 };

test('a track that is opened and closed again and again leaves memory as it was within a tenth', async ({
  page,
  desk,
}) => {
  // Nearly all silence: the browser's debugger, through which the test sees, keeps a copy of every file that arrives.
  const { left, right } = music(1, RATE);
  const held = (channel: Float64Array) => {
    const samples = new Float64Array(SECONDS * RATE);
    samples.set(channel);
    return samples;
  };
  await desk.openNewTrack('Often.wav', { left: held(left), right: held(right) }, RATE);
  const browser = await page.context().newCDPSession(page);
  const cycle = async (times: number) => {
    for (let i = 0; i < times; i++) {
      await page.getByRole('link', { name: 'Open' }).click();
      await desk.checked();
      await page.getByRole('navigation', { name: 'Where you are' }).getByRole('link').last().click();
      await expect(page.getByRole('link', { name: 'Open' })).toBeVisible();
      await browser.send('HeapProfiler.collectGarbage');
    }
  };
  await page.getByRole('navigation', { name: 'Where you are' }).getByRole('link').last().click();
  await cycle(3);
  const first = pageBytes();
  await cycle(OPENINGS);
  // A browser gives memory back in its own time.
  await expect
    .poll(
      async () => {
        await browser.send('HeapProfiler.collectGarbage');
        return pageBytes() / first;
      },
      { timeout: 180_000 },
    )
    .toBeLessThan(1.1);
});

test('a long programme at 96 kHz is opened, edited and played within what was promised', async ({ page, desk }) => {
  const file = path.join(mkdtempSync(path.join(os.tmpdir(), 'copper-long-')), 'Long.flac');
  const tone = `sine=f=220:r=${LONG.sampleRate}:d=${LONG.seconds}`;
  ffmpeg(['-v', 'error', '-f', 'lavfi', '-i', tone, '-ac', '2', '-compression_level', '0', file]);
  let most = 0;
  const watch = setInterval(() => (most = Math.max(most, pageBytes())), 250);
  try {
    await desk.open('/');
    await page.getByLabel('Mixes to upload').setInputFiles(file);
    await page.getByRole('link', { name: 'Open' }).click({ timeout: 240_000 });
    await desk.checked();
    await desk.addStage('Equalizer', 1);
    await desk.addStage('Limiter', 2);
    await page.getByRole('button', { name: 'Play', exact: true }).click();
    await expect.poll(() => desk.position()).toBeGreaterThan(1);
  } finally {
    clearInterval(watch);
    rmSync(path.dirname(file), { recursive: true });
  }
  expect(most).toBeGreaterThan(LONG.seconds * LONG.sampleRate * 8);
  expect(most).toBeLessThan(LONG.bytes);
});
