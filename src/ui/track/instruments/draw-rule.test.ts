import { recordedSurface } from '../../../../tests/support/surface';
import { DAYLIGHT } from '../../theme/palette';
import { drawRule, peakRule, PPM_RULE, shareOf, vuRule } from './draw-rule';

test('the zero of a VU is where one puts it; what is over it warns', () => {
  const rule = vuRule(-14, 'decibels');
  expect(shareOf(-14, rule)).toBeCloseTo(20 / 23, 6);
  expect(shareOf(-11, rule)).toBe(1);
  expect(shareOf(-80, rule)).toBe(0);
  const surface = recordedSurface(320, 60);
  drawRule(surface, rule, [{ barDbfs: -20 }, { barDbfs: -12 }], DAYLIGHT.patina, DAYLIGHT);
  const bars = surface.boxes.filter(({ height }) => height === 10).map(({ color }) => color);
  expect(bars).toEqual([DAYLIGHT.patina, DAYLIGHT.brick]);
  expect(surface.words()).toEqual(expect.arrayContaining(['L', 'R', '−20', '0', '+3']));
});

test('in per cent a VU has its zero at 100, and half of the amplitude in the middle between that and nothing', () => {
  const rule = vuRule(-18, 'percent');
  expect(shareOf(-18 - 6.0206, rule)).toBeCloseTo(shareOf(-18, rule) / 2, 4);
  expect(shareOf(-200, rule)).toBeCloseTo(0, 6);
  expect(shareOf(-15, rule)).toBe(1);
  const surface = recordedSurface(320, 60);
  drawRule(surface, rule, [], DAYLIGHT.patina, DAYLIGHT);
  expect(surface.words()).toEqual(['20', '40', '60', '80', '100', '120', '140']);
});

test.each([20, 14, 12])('a scale with %d dB of headroom has full scale at its end', (headroom) => {
  const rule = peakRule(headroom);
  expect(shareOf(0, rule)).toBe(1);
  expect(shareOf(-headroom, rule)).toBeCloseTo(36 / (36 + headroom), 6);
  expect(rule.named.at(-1)).toBe(headroom);
});

test('without headroom the scale is that of full scale, and bars, peaks and marks grow with the level', () => {
  const surface = recordedSurface(320, 60);
  const quiet = { barDbfs: -30, paleDbfs: -28, markDbfs: -20 };
  const loud = { barDbfs: -6, paleDbfs: 0.5, markDbfs: 0.5 };
  drawRule(surface, peakRule(null), [quiet, loud], DAYLIGHT.copper, DAYLIGHT);
  const widths = surface.boxes.filter(({ height }) => height === 10).map(({ width }) => width);
  expect(widths[1]).toBeGreaterThan(2 * widths[0]);
  const marks = surface.boxes.filter(({ height }) => height === 12).map(({ color }) => color);
  expect(marks).toEqual([DAYLIGHT.ink, DAYLIGHT.brick]);
  expect(shareOf(-9, PPM_RULE)).toBeGreaterThan(0.8);
});
