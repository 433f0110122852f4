import { heldValues } from './reduction-trace';

test('a peak is held for a while, and a higher one takes its place at once', () => {
  const held = heldValues([0, 3, 1, 1, 4, 0]);
  expect(held).toEqual([0, 3, 3, 3, 4, 4]);
});

test('after the hold the present value stands', () => {
  const values = [5, ...new Array<number>(60).fill(1)];
  const held = heldValues(values);
  expect(held[45]).toBe(5);
  expect(held[46]).toBe(1);
  expect(heldValues([])).toEqual([]);
});

test('an equal peak starts the hold again', () => {
  const values = [2, ...new Array<number>(30).fill(0), 2, ...new Array<number>(40).fill(0)];
  const held = heldValues(values);
  expect(held[60]).toBe(2);
  expect(held.at(-1)).toBe(2);
});
