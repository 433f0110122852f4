import type { Quantity } from '../../core/stages/setting';
import { sliderScale } from './slider-scale';

const PIXELS = 124;
const quantity = (part: Partial<Quantity>): Quantity => ({
  ...{ title: 'Gain', unit: 'dB', min: -24, max: 24, step: 0.1, default: 0, help: '' },
  ...part,
});

test.each([
  ['gain', quantity({})],
  ['drive', quantity({ min: -12, max: 24 })],
  ['threshold', quantity({ unit: 'dBFS', min: -80, max: 0, default: -24 })],
  ['range', quantity({ min: 0, max: 48, default: 12 })],
  ['from one end', quantity({ min: 0, max: 48, default: 0 })],
  ['to the other', quantity({ unit: 'dBTP', min: -60, max: 0, default: 0 })],
])(
  '%s: a pixel of the shortest slider is a tenth of a decibel around the default, and nothing is out of reach',
  (_, of) => {
    const { toShare, fromShare } = sliderScale(of);
    expect([fromShare(0), fromShare(1)].map((value) => Number(value.toFixed(9)))).toEqual([of.min, of.max]);
    const at = toShare(of.default);
    for (const side of [-1, 1]) {
      const near = at + side / PIXELS;
      if (near < 0 || near > 1) continue;
      expect(Math.abs(fromShare(near) - of.default)).toBeLessThan(0.105);
    }
    let last = -Infinity;
    for (let i = 0; i <= 1000; i++) {
      const value = fromShare(i / 1000);
      expect(value).toBeGreaterThan(last);
      expect(toShare(value)).toBeCloseTo(i / 1000, 9);
      last = value;
    }
  },
);

test('what is short enough already, or no decibels, is even; frequencies go by ratio', () => {
  const even = sliderScale(quantity({ unit: 'dBTP', min: -12, max: 0, default: -1 }));
  expect(even.fromShare(0.5)).toBeCloseTo(-6, 9);
  const percent = sliderScale(quantity({ unit: '%', min: 0, max: 200, default: 100 }));
  expect(percent.fromShare(0.25)).toBeCloseTo(50, 9);
  const frequency = sliderScale(quantity({ unit: 'Hz', min: 20, max: 20000, default: 1000, scale: 'logarithmic' }));
  expect(frequency.fromShare(1 / 3)).toBeCloseTo(200, 6);
  expect(frequency.toShare(2000)).toBeCloseTo(2 / 3, 9);
});
