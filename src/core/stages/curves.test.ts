// What the workspace draws is what the kernels do.
import { aligned, valuesOf } from '../../../tests/support/core';
import { both, db, sine } from '../../../tests/support/signals';
import { bandOutput, works } from './band-dynamics/design';
import { dynamicsBand } from './band-dynamics/settings';
import { compressorDesign } from './compressor/design';
import { compressorSettings } from './compressor/settings';
import { staticReduction } from './dynamics';

const RATE = 48000;
const LEVELS = [-55, -40, -31, -24, -18, -9, -3];
/** Level in dBFS that comes out of a steady tone. */
function steady(dbfs: number, stage: { kind: string; settings: object }, crossovers?: object): number {
  const { left } = aligned(both(sine(1000, dbfs, 1.2, RATE)), [stage], RATE, 1024, { crossovers });
  return db(left.subarray(-RATE / 10).reduce((most, x) => Math.max(most, Math.abs(x)), 0));
}

test.each(valuesOf(compressorSettings.shape.circuit))('the curve of the %s circuit', (circuit) => {
  const settings = { circuit, thresholdDbfs: -30, ratio: 3, kneeDb: 8, attackMs: 1, releaseMs: 120, colourPercent: 0 };
  const design = compressorDesign(compressorSettings.parse(settings), RATE);
  for (const level of LEVELS) {
    const drawn = level - staticReduction(design, level);
    expect(Math.abs(steady(level, { kind: 'compressor', settings }) - drawn)).toBeLessThan(0.2);
  }
});

test('the curve of a band with all its dynamics', () => {
  const band = {
    expansion: { thresholdDbfs: -45, ratio: 2, rangeDb: 12, attackMs: 1, releaseMs: 100 },
    compression: { thresholdDbfs: -26, ratio: 3, kneeDb: 4, attackMs: 1, releaseMs: 120 },
    limiting: { thresholdDbfs: -18, attackMs: 1, releaseMs: 120 },
    makeupDb: 2,
  };
  const whole = dynamicsBand.parse(band);
  for (const level of LEVELS) {
    const stage = { kind: 'bandDynamics', settings: { bands: [{}, band, {}, {}, {}] } };
    const heard = steady(level, stage, { frequenciesHz: [60, 15000] });
    expect(Math.abs(heard - bandOutput(whole, level))).toBeLessThan(0.3);
  }
  expect(bandOutput({ ...whole, on: false }, -10)).toBe(-10);
});

test('a band works when anything of it does', () => {
  const of = (part: object) => works(dynamicsBand.parse(part));
  expect(of({})).toBe(false);
  expect(of({ makeupDb: 1 })).toBe(true);
  expect(of({ makeupDb: 1, on: false })).toBe(false);
  expect(of({ expansion: { ratio: 1.5 } })).toBe(true);
  expect(of({ compression: { ratio: 1.05 } })).toBe(true);
  expect(of({ limiting: { thresholdDbfs: -0.1 } })).toBe(true);
});
