import { recordedSurface } from '../../../../tests/support/surface';
import { TAP_FRAMES } from '../../../engine/live/protocol';
import { DAYLIGHT } from '../../theme/palette';
import { drawVectorscope } from './draw-vectorscope';

/** Places of the dots for a signal on both channels, from the middle of the picture. */
function dots(left: (i: number) => number, right: (i: number) => number): { x: number; y: number }[] {
  const surface = recordedSurface(212, 228);
  const tap = (of: (i: number) => number) => Float32Array.from({ length: TAP_FRAMES }, (_, i) => of(i));
  const after = tap((i) => (left(i) + right(i)) / 2);
  const afterSide = tap((i) => (left(i) - right(i)) / 2);
  drawVectorscope(surface, { written: Int32Array.of(TAP_FRAMES), mid: after, side: afterSide }, DAYLIGHT);
  return surface.boxes
    .filter(({ color }) => color === DAYLIGHT.patina)
    .map(({ x, y }) => ({ x: x + 0.7 - 106, y: y + 0.7 - 118 }));
}
const wave = (i: number) => Math.sin(i / 7);
const silent = () => 0;

test('mono stands up, inverted polarity lies, one channel lies along its diagonal, to its own side', () => {
  expect(dots(wave, wave).every(({ x }) => Math.abs(x) < 1e-6)).toBe(true);
  expect(dots(wave, (i) => -wave(i)).every(({ y }) => Math.abs(y) < 1e-6)).toBe(true);
  const onLeft = dots(wave, silent);
  expect(onLeft.every(({ x, y }) => Math.abs(x - y) < 1e-4)).toBe(true);
  expect(dots((i) => Math.abs(wave(i)), silent).every(({ x, y }) => x <= 0 && y <= 0)).toBe(true);
});

test('at rest there are only the axes', () => {
  const surface = recordedSurface(212, 228);
  drawVectorscope(surface, null, DAYLIGHT);
  expect(surface.boxes).toEqual([]);
  expect(surface.words()).toContain('Play to see');
});
