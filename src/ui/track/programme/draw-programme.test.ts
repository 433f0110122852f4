import { recordedSurface } from '../../../../tests/support/surface';
import { DAYLIGHT } from '../../theme/palette';
import { drawProgramme } from './draw-programme';

const RATE = 1000;
const samples = { left: new Float32Array(60 * RATE).fill(0.5), right: new Float32Array(60 * RATE) };
const reading = {
  picture: new Float32Array(0),
  shortTerm: Float32Array.from({ length: 600 }, () => -20),
  overs: Float32Array.of(30),
};
const MIX = { reading: null, samples };
const MASTER = { reading: reading as never, samples };

test('mix, master, loudness and overs lie where they belong in the part that is shown', () => {
  const surface = recordedSurface(600, 128);
  drawProgramme(surface, { start: 0, end: 60 * RATE }, RATE, MIX, MASTER, DAYLIGHT);
  expect(surface.boxes.find(({ color }) => color === DAYLIGHT.brick)!.x).toBeCloseTo(300, 6);
  // Halfway down from 0 to −40 LUFS.
  const loudness = surface.paths.find(({ color }) => color === DAYLIGHT.ink)!.points;
  expect(loudness[0][1]).toBeCloseTo(12 + 50, 6);
  expect(surface.paths.filter(({ color }) => color === DAYLIGHT.copper)).toHaveLength(2);
  expect(surface.words()).toEqual(expect.arrayContaining(['0:15', '0:30', '0:45', 'short-term LUFS', '−20']));
});

test('zoomed in, the axis counts in finer steps, and what is outside is outside', () => {
  const surface = recordedSurface(600, 128);
  drawProgramme(surface, { start: 10 * RATE, end: 11 * RATE }, RATE, MIX, MASTER, DAYLIGHT);
  expect(surface.words()).toEqual(expect.arrayContaining(['0:10.2', '0:10.4', '0:10.8']));
  expect(surface.boxes.find(({ color }) => color === DAYLIGHT.brick)!.x).toBeGreaterThan(600);
});
