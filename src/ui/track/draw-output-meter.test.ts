import { recordedSurface } from '../../../tests/support/surface';
import { DAYLIGHT } from '../theme/palette';
import { drawOutputMeter } from './draw-output-meter';

test('bars are as long as their peaks; a true peak over full scale is brick, its held mark too', () => {
  const surface = recordedSurface(217, 42);
  const channels = [
    { sampleDbfs: -12, trueDbtp: -11, heldDbtp: -6 },
    { sampleDbfs: 0, trueDbtp: 0.4, heldDbtp: 0.4 },
  ];
  drawOutputMeter(surface, channels, DAYLIGHT.patina, DAYLIGHT);
  // 200 px for 45 dB from −42.
  const bars = surface.boxes.filter(({ height, color }) => height === 9 && color === DAYLIGHT.patina);
  expect(bars.map(({ width }) => width)).toEqual([expect.closeTo(133.33, 1), expect.closeTo(186.67, 1)]);
  const brick = surface.boxes.filter(({ color }) => color === DAYLIGHT.brick);
  expect(brick.map(({ height }) => height)).toEqual([4, 11]);
  expect(brick.every(({ y }) => y > 13)).toBe(true);
});

test('silence shows empty bars and no marks', () => {
  const surface = recordedSurface(217, 42);
  const silent = { sampleDbfs: -Infinity, trueDbtp: -Infinity, heldDbtp: -Infinity };
  drawOutputMeter(surface, [silent, silent], DAYLIGHT.patina, DAYLIGHT);
  const drawn = surface.boxes.filter(({ color }) => color !== DAYLIGHT.hairline);
  expect(drawn.every(({ width }) => width === 0)).toBe(true);
});
