import { music } from '../../../tests/support/music';
import { noise } from '../../../tests/support/signals';
import { equalizerSettings } from '../stages/equalizer/settings';
import { throughLane } from '../../../tests/support/core';
import { align } from './alignment';

const RATE = 44100;
const LEAD = 3 * RATE;
const piece = music(12, RATE);
const mid = ({ left, right }: { left: Float64Array; right: Float64Array }) =>
  Float32Array.from(left, (l, i) => (l + right[i]) / 2);
const older = mid(piece);
const from = 5 * RATE;
const passage = older.subarray(from, from + 2 * RATE);

/** A stretch of a mix that is late by some frames, from 3 s before the passage to 3 s behind it. */
const stretch = (mix: Float32Array, late: number) =>
  Float32Array.from({ length: 8 * RATE }, (_, i) => mix[from - LEAD + i - late] ?? 0);

test.each([0, 1, -1, 1632, -20_000, 132_299])('a mix that begins %i frames later is found to the sample', (late) => {
  const found = align(passage, stretch(older, late), LEAD);
  expect(found?.offsetFrames).toBe(late);
  expect(found?.agreement).toBeGreaterThan(0.98);
});

test('a mix that was corrected in tone and level, with noise on it, is found to the sample', () => {
  const settings = equalizerSettings.parse({
    bands: [
      { shape: 'lowShelf', frequencyHz: 150, gainDb: -4 },
      { shape: 'bell', frequencyHz: 3400, gainDb: -8, q: 5 },
      { shape: 'highShelf', frequencyHz: 8000, gainDb: 3 },
    ],
  });
  const corrected = mid(throughLane(piece, [{ kind: 'equalizer', settings }], RATE));
  const hiss = noise(corrected.length, 0.004, 3);
  const louder = corrected.map((x, i) => 1.7 * x + hiss[i]);
  // 37 ms, as a session exported with a shorter count-in.
  expect(align(passage, stretch(louder, 1632), LEAD)?.offsetFrames).toBe(1632);
});

test('another piece is not lined up', () => {
  expect(align(passage, Float32Array.from(noise(8 * RATE, 0.3, 9)), LEAD)).toBeNull();
  expect(align(passage, new Float32Array(8 * RATE), LEAD)).toBeNull();
});
