import { spreadOf, spreadsOver } from './spread';

test('quartiles lie between neighbours as the usual definition has it (numpy.percentile, linear)', () => {
  // numpy.percentile([1, 2, 4, 8], [0, 25, 50, 75, 100]) = [1, 1.75, 3, 5, 8], from memory of its documentation.
  expect(spreadOf([8, 1, 4, 2])).toEqual({ least: 1, lower: 1.75, median: 3, upper: 5, most: 8 });
  expect(spreadOf([7])).toEqual({ least: 7, lower: 7, median: 7, upper: 7, most: 7 });
  expect(spreadOf([NaN, NaN])).toBeNull();
});

test('each stretch has its own spread, silence none, and no value is left out', () => {
  const values = Float32Array.of(1, 1, NaN, NaN, -1, 0);
  expect(spreadsOver(values, 3).map((spread) => spread && [spread.least, spread.most])).toEqual([
    [1, 1],
    null,
    [-1, 0],
  ]);
  const many = Float32Array.from({ length: 1003 }, (_, i) => i);
  const spreads = spreadsOver(many, 10);
  spreads.slice(1).forEach((spread, i) => expect(spread!.least).toBe(spreads[i]!.most + 1));
});
