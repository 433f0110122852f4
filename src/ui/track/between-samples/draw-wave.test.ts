import { recordedSurface } from '../../../../tests/support/surface';
import { waveBetween } from '../../../core/measure/between-samples';
import { DAYLIGHT } from '../../theme/palette';
import { drawWave, topOf, type DrawnWave } from './draw-wave';

/** A quarter of the rate at 45°: the samples at 0.71 of what lies between them. */
function wave(amplitude: number, frames = 40): DrawnWave {
  const samples = Float32Array.from({ length: 400 }, (_, n) => amplitude * Math.sin((Math.PI / 2) * n + Math.PI / 4));
  const span = { start: 100, end: 100 + frames - 1 };
  return { samples: samples.slice(span.start, span.end + 1), wave: waveBetween(samples, span, 8), perFrame: 8 };
}
const LEVELS = [
  { name: 'full scale', levelDb: 0 },
  { name: 'Streaming', levelDb: -1 },
];
function drawn(of: DrawnWave) {
  const surface = recordedSurface(416, 220);
  const look = { top: topOf([of]), levels: LEVELS, color: DAYLIGHT.patina, title: 'Left' };
  drawWave(surface, of, look, DAYLIGHT);
  return surface;
}

test('samples are dots on the wave, which rises above them; full scale and ceiling are named', () => {
  const surface = drawn(wave(0.9));
  const dots = surface.boxes.filter(({ width, height }) => width === 4 && height === 4);
  expect(dots).toHaveLength(40);
  const [line] = surface.paths;
  expect(line.color).toBe(DAYLIGHT.patina);
  dots.forEach(({ x, y }, i) => {
    expect(line.points[8 * i][0]).toBeCloseTo(x + 2, 6);
    expect(line.points[8 * i][1]).toBeCloseTo(y + 2, 3);
  });
  const highest = Math.min(...line.points.map(([, y]) => y));
  expect(highest).toBeLessThan(Math.min(...dots.map(({ y }) => y)) - 20);
  expect(surface.words()).toEqual(['full scale 0.0 dBFS', 'Streaming −1.0 dBFS', 'Left, highest here −0.92 dBTP']);
});

test('what is over full scale is hatched from there to the wave, and only that', () => {
  const hatching = (of: DrawnWave) =>
    drawn(of).boxes.filter(({ width, height, color }) => width === 1 && height > 0 && color === DAYLIGHT.brick);
  expect(hatching(wave(0.98))).toEqual([]);
  // The samples themselves are under full scale.
  const over = wave(1.2);
  expect(Math.max(...over.samples)).toBeLessThan(1);
  expect(hatching(over).length).toBeGreaterThan(10);
});

test('of many samples there are no dots, and what is quiet fills the picture', () => {
  const dots = drawn(wave(0.9, 300)).boxes.filter(({ width, height }) => width === 4 && height === 4);
  expect(dots).toEqual([]);
  expect(topOf([wave(0.01)])).toBeLessThan(0.02);
  expect(topOf([wave(0.9)])).toBeCloseTo(1.12, 6);
});
