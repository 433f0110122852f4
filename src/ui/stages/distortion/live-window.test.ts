import { makeTaps, TAP_FRAMES } from '../../../engine/live/protocol';
import { liveWindow, mostFrames } from './live-window';
import { distortionWords } from './distortion-picture';

/** Taps in which frame t of the track has left = t and right = −2t, and after the stage half of it, `latency` later. */
function tapsAt(written: number, latency: number) {
  const taps = makeTaps();
  for (let t = Math.max(0, written - TAP_FRAMES); t < written; t++) {
    const at = t % TAP_FRAMES;
    taps.before[at] = (t - 2 * t) / 2;
    taps.beforeSide[at] = (t + 2 * t) / 2;
    const late = t - latency;
    taps.after[at] = (late - 2 * late) / 4;
    taps.afterSide[at] = (late + 2 * late) / 4;
  }
  taps.written[0] = written;
  return taps;
}

test.each([
  ['before the ring is full', 9000],
  ['when it has gone round', 3 * TAP_FRAMES + 77],
])('a channel is read before a stage and after it, in time with each other, %s', (_, written) => {
  const latency = 300;
  const taps = tapsAt(written, latency);
  const left = liveWindow(taps, 'left', 64, latency);
  expect(left.before[63]).toBeCloseTo(written - latency - 1, 3);
  left.before.forEach((x, i) => expect(left.after[i]).toBeCloseTo(x / 2, 3));
  const right = liveWindow(taps, 'right', 64, latency);
  right.before.forEach((x, i) => expect(x).toBeCloseTo(-2 * left.before[i], 2));
  right.before.forEach((x, i) => expect(right.after[i]).toBeCloseTo(x / 2, 2));
});

test('no more is read than the ring holds', () => {
  expect(mostFrames(5000) + 5000).toBeLessThan(TAP_FRAMES);
});

const reading = (totalDb: number, db: number | null) => ({
  totalDb,
  lowDb: -Infinity,
  bands: [],
  barest: db === null ? null : { hz: 3162, db },
});

test.each([
  [-20, 4.2, 'Exposed: 4.2 dB above the music near 3.16 k Hz'],
  [-30, -8, 'Nearly exposed: only 8.0 dB below the music near 3.16 k Hz'],
  [-40, -25, 'Masked by the music: at least 25.0 dB below it'],
  [-Infinity, null, 'No audible distortion'],
])('distortion of %f dB whose barest place is %p is told in words', (totalDb, barest, words) => {
  expect(distortionWords(reading(totalDb, barest))).toBe(words);
});
