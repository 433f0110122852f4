import { summariseReduction } from './reduction-summary';

test('the most, and what three quarters of the time stay below', () => {
  expect(summariseReduction(Float32Array.from([4, 0, 1, 2]))).toEqual({ most: 4, typical: 4 });
  expect(summariseReduction(Float32Array.from([0, 0, 0, 0, 0, 0, 2, 6]))).toEqual({ most: 6, typical: 2 });
  expect(summariseReduction(new Float32Array(0))).toEqual({ most: 0, typical: 0 });
});
