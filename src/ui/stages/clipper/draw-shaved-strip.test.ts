import { recordedSurface } from '../../../../tests/support/surface';
import { TRACE_FRAMES } from '../../../engine/measure/measurement';
import { DAYLIGHT } from '../../theme/palette';
import { drawShavedStrip } from './draw-shaved-strip';

test('a column stands where something is cut, as high as it is deep, and no cut is lost between two pixels', () => {
  const trace = new Float32Array(1000);
  trace[503] = 2;
  trace[900] = 1;
  const surface = recordedSurface(100, 30);
  drawShavedStrip(surface, { trace, frames: 1000 * TRACE_FRAMES }, DAYLIGHT);
  const columns = surface.boxes.filter(({ color }) => color === DAYLIGHT.copper);
  expect(columns.map(({ x }) => x)).toEqual([50, 90]);
  expect(columns[0].height).toBeCloseTo(26, 6);
  expect(columns[1].height).toBeCloseTo(14, 6);
  expect(surface.words()).toEqual(['cut over the track, up to 2.0 dB']);
});

test.each([[null], [new Float32Array(10)]])('says so where nothing is cut', (trace) => {
  const surface = recordedSurface(100, 30);
  drawShavedStrip(surface, { trace, frames: 10 * TRACE_FRAMES }, DAYLIGHT);
  expect(surface.words()).toEqual(['Nothing is cut in this track']);
});
