import { recordedSurface } from '../../../../tests/support/surface';
import type { TipsReading } from '../../../core/measure/tips';
import { clipperSettings } from '../../../core/stages/clipper/settings';
import { DAYLIGHT } from '../../theme/palette';
import { drawTips, tipsWords } from './draw-tips';

const RATE = 48000;
const settings = clipperSettings.parse({ ceilingDbfs: -6.02 });
const tip = (height: number) => {
  const before = Float32Array.from({ length: 21 }, (_, i) => height * (1 - Math.abs(i - 10) / 30));
  return { before, after: before.map((x) => Math.min(0.5, x)) };
};
const tips: TipsReading = { count: 312, longestFrames: 24, highest: [tip(0.6), tip(0.55)] };
const picture = { tips, peaks: [1, 0.5], settings, when: 'whole track', heightDb: 3, sampleRate: RATE } as const;

test('tips lie over each other with their tops in the middle; what is cut is above the ceiling, the rest ends on it', () => {
  const surface = recordedSurface(700, 200);
  drawTips(surface, picture, DAYLIGHT);
  const lines = (color: string) => surface.paths.filter((path) => path.color === color && !path.filled);
  const plot = 700 - 74 - 44;
  for (const { points } of lines(DAYLIGHT.copper)) {
    const top = points.reduce((a, b) => (b[1] < a[1] ? b : a));
    expect(top[0]).toBeCloseTo(plot / 2, 6);
    expect(top[1]).toBeLessThan(91);
  }
  for (const { points } of lines(DAYLIGHT.patina)) expect(Math.min(...points.map(([, y]) => y))).toBeCloseTo(91, 0);
  expect(lines(DAYLIGHT.copper)).toHaveLength(2);
  expect(surface.words()).toContain('ceiling −6.0 dBFS');
  // The meters: 6 dB over the ceiling going in, at the ceiling coming out.
  const meter = (color: string) => surface.boxes.find((box) => box.color === color)!;
  expect(meter(DAYLIGHT.copper).y).toBeCloseTo(91 - 73 / 2, 0);
  expect(meter(DAYLIGHT.patina).y).toBeCloseTo(91, 0);
});

test('the number of tips and the longest cut are said', () => {
  expect(tipsWords(tips, RATE)).toBe('2 of 312 tips over the ceiling, the longest 24 samples (0.50 ms)');
  expect(tipsWords({ ...tips, count: 1, longestFrames: 1 }, RATE)).toBe(
    '1 tip over the ceiling, the longest 1 sample (0.02 ms)',
  );
  expect(tipsWords({ ...tips, count: 0 }, RATE)).toBe('no tip reaches the ceiling');
});

test('before anything is known it says that it is not measured', () => {
  const surface = recordedSurface(700, 200);
  drawTips(surface, { ...picture, tips: null, peaks: [0, 0] }, DAYLIGHT);
  expect(surface.words()).toContain('Not measured yet');
  expect(surface.words().filter((word) => word === '–')).toHaveLength(2);
});
