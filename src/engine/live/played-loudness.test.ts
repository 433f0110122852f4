import { join, sine } from '../../../tests/support/signals';
import { Kernels } from '../../core/kernels/host';
import { LoudnessMeter } from '../../core/measure/loudness';
import { PlayedLoudness } from './played-loudness';

const RATE = 48000;
const QUANTUM = 128;
/** Of EBU Tech 3341. */
const TOLERANCE_LU = 0.1;

/** Plays a signal on both channels through a meter that remembers 4 s, followed as it goes. */
function player() {
  const kernels = new Kernels();
  const [left, right] = [kernels.allocate(QUANTUM * 8), kernels.allocate(QUANTUM * 8)];
  const meter = new LoudnessMeter(kernels, RATE, 400);
  const played = new PlayedLoudness();
  return {
    meter,
    played,
    play(x: Float64Array) {
      for (let at = 0; at + QUANTUM <= x.length; at += QUANTUM) {
        for (const side of [left, right]) kernels.view64(side, QUANTUM).set(x.subarray(at, at + QUANTUM));
        meter.add(left, right, QUANTUM);
        played.follow(meter);
      }
    },
  };
}

// EBU Tech 3341: a tone of 1 kHz of −23 dBFS on both channels reads −23 LUFS.
const tone = (dbfs: number, seconds: number) => sine(1000, dbfs, seconds, RATE);

test('what was played has the loudness of all of it, not of what the meter remembers', () => {
  const { play, played } = player();
  play(tone(-23, 10));
  expect(Math.abs(played.integrated() + 23)).toBeLessThan(TOLERANCE_LU);
  // Quieter by more than 10 LU: gated out (EBU Tech 3341, test case 3).
  play(tone(-36, 10));
  expect(Math.abs(played.integrated() + 23)).toBeLessThan(TOLERANCE_LU);
});

test('it starts again from where it is told to', () => {
  const { play, played, meter } = player();
  play(join(tone(-30, 2), tone(-14, 3)));
  played.clear(meter.hopCount);
  expect(played.integrated()).toBe(-Infinity);
  play(tone(-23, 3));
  // The first blocks reach back into what was played before.
  expect(Math.abs(played.integrated() + 23)).toBeLessThan(1.5);
  play(tone(-23, 30));
  expect(Math.abs(played.integrated() + 23)).toBeLessThan(0.2);
});
