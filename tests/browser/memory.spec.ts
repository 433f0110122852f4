// What an open track takes is given back when it is closed.
import { readdirSync, readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { music } from '../support/music';
import { Desk } from './desk';

const SECONDS = 60;
const RATE = 44100;
const MIX_BYTES = SECONDS * RATE * 2 * 4;

/** Memory of the page's process in bytes, shared parts by their share (Linux, proc(5), smaps_rollup): the largest renderer. */
function pageBytes(): number {
  const sizes = readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .map((pid) => {
      try {
        if (!readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('--type=renderer')) return 0;
        return 1024 * Number(/^Pss:\s+(\d+)/m.exec(readFileSync(`/proc/${pid}/smaps_rollup`, 'utf8'))?.[1] ?? 0);
      } catch {
        return 0; // It has ended meanwhile.
      }
    });
  return Math.max(...sizes);
}

test('a track that is opened and closed again and again leaves nothing in memory', async ({ page }) => {
  const desk = new Desk(page);
  await desk.signIn();
  await desk.openNewTrack('Long.wav', music(SECONDS, RATE), RATE);
  const browser = await page.context().newCDPSession(page);
  const close = async () => {
    await page.getByRole('navigation', { name: 'Where you are' }).getByRole('link').last().click();
    await expect(page.getByRole('link', { name: 'Open' })).toBeVisible();
    await browser.send('HeapProfiler.collectGarbage');
  };
  await close();
  const first = pageBytes();
  for (let i = 0; i < 4; i++) {
    await page.getByRole('link', { name: 'Open' }).click();
    await desk.checked();
    await close();
  }
  // A browser gives memory back in its own time and keeps some in reserve; a track that stays takes twice its mix each time.
  await expect
    .poll(
      async () => {
        await browser.send('HeapProfiler.collectGarbage');
        return pageBytes() - first;
      },
      { timeout: 120_000 },
    )
    .toBeLessThan(3 * MIX_BYTES);
});
