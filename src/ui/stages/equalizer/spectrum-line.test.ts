import { sine } from '../../../../tests/support/signals';
import { TAP_FRAMES } from '../../../engine/live/protocol';
import { shareOf } from './equalizer-axes';
import { columnsOf, SPECTRUM_FLOOR, SpectrumLine } from './spectrum-line';

const RATE = 44100;
const COLUMNS = 300;
const columnAt = (frequency: number) => Math.round(shareOf(frequency) * (COLUMNS - 1));

/** Levels of evenly spaced bins, the same everywhere but at one bin. */
function bins(level: number, at?: { bin: number; level: number }): Float32Array {
  const all = new Float32Array(4096).fill(level);
  if (at) all[at.bin] = at.level;
  return all;
}

test.each(['fine', 'medium', 'coarse'] as const)('level bins make a level line, %s', (resolution) => {
  const line = columnsOf(bins(-40), RATE, COLUMNS, resolution, 0);
  for (const level of line) expect(level).toBeCloseTo(-40, 3);
});

test.each([3, 4.5])('a tilt of %s dB per octave turns about 1 kHz', (tilt) => {
  const line = columnsOf(bins(-40), RATE, COLUMNS, 'medium', tilt);
  expect(line[columnAt(1000)]).toBeCloseTo(-40, 0);
  expect(line[columnAt(8000)] - line[columnAt(2000)]).toBeCloseTo(2 * tilt, 0);
});

test('a coarser line spreads a single tone over more of the octaves', () => {
  const tone = { bin: Math.round((2000 / RATE) * 8192), level: 0 };
  const width = (resolution: 'fine' | 'medium' | 'coarse') =>
    columnsOf(bins(-120, tone), RATE, COLUMNS, resolution, 0).filter((level) => level > -60).length;
  expect(width('fine')).toBeLessThan(width('medium'));
  expect(width('medium')).toBeLessThan(width('coarse'));
});

test('a live line rises at once, falls slowly, and holds its peaks until they are let go', () => {
  const line = new SpectrumLine('medium', 0);
  const tone = Float32Array.from(sine(1000, -20, TAP_FRAMES / RATE, RATE));
  const silence = new Float32Array(TAP_FRAMES);
  const at = columnAt(1000);
  line.update(tone, TAP_FRAMES, COLUMNS, RATE);
  const peak = line.levels[at];
  expect(peak).toBeGreaterThan(-40);
  line.update(silence, TAP_FRAMES, COLUMNS, RATE);
  expect(line.levels[at]).toBeLessThan(peak);
  expect(line.levels[at]).toBeGreaterThan(peak - 3);
  for (let i = 0; i < 200; i++) line.update(silence, TAP_FRAMES, COLUMNS, RATE);
  expect(line.levels[at]).toBeLessThan(SPECTRUM_FLOOR);
  expect(line.held[at]).toBe(peak);
  line.release();
  expect(line.held[at]).toBe(line.levels[at]);
});
