import { withCopiedPins, withoutBandPins } from './pins';

const pin = (stage: string, control: string, value = 0) => ({ stage, control, value });

test('a band takes its pins away with it, and those after it move up; nothing else moves', () => {
  const others = [pin('b', 'bands.1.q', 7), pin('a', 'scalePercent', 80)];
  const pins = [pin('a', 'bands.0.q', 1), pin('a', 'bands.1.q', 2), pin('a', 'bands.2.gainDb', 3), ...others];
  expect(withoutBandPins(pins, 'a', 1)).toEqual([pin('a', 'bands.0.q', 1), pin('a', 'bands.1.gainDb', 3), ...others]);
  expect(withoutBandPins(pins, 'a', 2)).toEqual([...pins.slice(0, 2), ...others]);
});

test('of band 10 the number is read as a whole', () => {
  const pins = [pin('a', 'bands.10.compression.ratio', 4)];
  expect(withoutBandPins(pins, 'a', 1)).toEqual([pin('a', 'bands.9.compression.ratio', 4)]);
  expect(withoutBandPins(pins, 'a', 10)).toEqual([]);
});

test('a copied stage has the pins of the one it was made from, which keeps its own', () => {
  const pins = [pin('a', 'gainDb', -2), pin('b', 'gainDb', 1)];
  expect(withCopiedPins(pins, 'a', 'c')).toEqual([...pins, pin('c', 'gainDb', -2)]);
});
