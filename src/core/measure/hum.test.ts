import { noise, sine } from '../../../tests/support/signals';
import { HumMeter } from './hum';

const SECONDS = 20;

function measure(left: Float64Array, right: Float64Array, rate: number) {
  const meter = new HumMeter(rate);
  for (let at = 0; at < left.length; at += 4096)
    meter.add(left.subarray(at, at + 4096), right.subarray(at, at + 4096), Math.min(4096, left.length - at));
  return meter.result();
}
const sum = (...parts: Float64Array[]) => parts[0].map((_, i) => parts.reduce((s, part) => s + part[i], 0));
const music = (rate: number) => noise(SECONDS * rate, 0.01, 1);

test.each([
  [44100, 50, -60],
  [48000, 60, -66],
  [96000, 50, -60],
  [192000, 60, -70],
])(
  'at %d Hz a hum of %d Hz at %d dBFS is found with its level, in one channel as well as in both',
  (rate, mains, db) => {
    const hum = sum(sine(mains, db, SECONDS, rate), sine(2 * mains, db - 6, SECONDS, rate));
    const quiet = music(rate);
    for (const right of [sum(quiet, hum), quiet]) {
      const found = measure(sum(quiet, hum), right, rate);
      expect(found?.frequencyHz).toBe(mains);
      // Of both channels together: 3 dB less where only one has it; and a bin may be half a bin away.
      expect(Math.abs(found!.levelDb - db)).toBeLessThan(5);
    }
  },
);

test('a single tone of mains frequency is found too, and a wandering one', () => {
  const quiet = music(44100);
  expect(measure(sum(quiet, sine(50, -60, SECONDS, 44100)), quiet, 44100)?.frequencyHz).toBe(50);
  let phase = 0;
  const wandering = quiet.map((_, i) => {
    phase += (2 * Math.PI * (50 + 0.08 * Math.sin((2 * Math.PI * i) / (9 * 44100)))) / 44100;
    return 0.001 * Math.sin(phase) + 0.0005 * Math.sin(2 * phase);
  });
  expect(measure(sum(quiet, wandering), quiet, 44100)?.frequencyHz).toBe(50);
});

test('notes are no hum: neither next to the mains frequency, nor at it when they come and go', () => {
  const rate = 44100;
  const quiet = music(rate);
  // G1 and G2 of equal temperament, held throughout.
  const held = sum(sine(48.999, -20, SECONDS, rate), sine(97.999, -26, SECONDS, rate));
  expect(measure(sum(quiet, held), quiet, rate)).toBeNull();
  const notes = sum(sine(50, -20, SECONDS, rate), sine(100, -26, SECONDS, rate)).map((x, i) =>
    Math.floor(i / rate) % 2 ? x : 0,
  );
  expect(measure(sum(quiet, notes), quiet, rate)).toBeNull();
  expect(measure(quiet, quiet, rate)).toBeNull();
  expect(
    measure(
      quiet.map(() => 0),
      quiet.map(() => 0),
      rate,
    ),
  ).toBeNull();
});
