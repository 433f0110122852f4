import { makeTaps, TAP_FRAMES } from '../../../engine/live/protocol';
import { LiveTips } from './live-tips';

const RATE = 8000;

test('tips of the last five seconds are shown, each once, however the taps are read', () => {
  const taps = makeTaps();
  const live = new LiveTips(taps, RATE, 0.5);
  let written = 0;
  /** Plays seconds with one tip in each, on the left alone. */
  const play = (seconds: number, height: number) => {
    for (let i = 0; i < seconds * RATE; i++, written++) {
      const x = written % RATE === 4000 ? height : 0;
      const at = written % TAP_FRAMES;
      taps.before[at] = taps.beforeSide[at] = x / 2;
      taps.after[at] = taps.afterSide[at] = Math.min(0.5, x) / 2;
      taps.written[0] = written + 1;
      if (written % 700 === 0) live.take(0);
    }
    return live.take(0);
  };
  expect(play(2, 0.8)).toMatchObject({ count: 2, longestFrames: 1 });
  const later = play(6, 0.6);
  expect(later.count).toBeGreaterThanOrEqual(4);
  expect(later.count).toBeLessThanOrEqual(5);
  expect(Math.max(...later.highest[0].before)).toBeCloseTo(0.6, 6);
  expect(Math.max(...later.highest[0].after)).toBeCloseTo(0.5, 6);
});
