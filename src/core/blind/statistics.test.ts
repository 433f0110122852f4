import { chanceOfAtLeast, gradesCount, wilsonInterval } from './statistics';

// Published values of the binomial law, from memory.
test.each([
  [9, 10, 0.0107],
  [8, 10, 0.0547],
  [12, 16, 0.0384],
  [15, 20, 0.0207],
  [0, 10, 1],
  [10, 10, 1 / 1024],
])('%d or more of %d right come by chance in a share of %f', (right, trials, chance) => {
  expect(chanceOfAtLeast(right, trials)).toBeCloseTo(chance, 4);
});

test('the chances of every outcome add up, for long tests and other shares as well', () => {
  for (const share of [0.5, 0.25]) {
    for (const trials of [1, 7, 100]) {
      const exactly = (k: number) => chanceOfAtLeast(k, trials, share) - chanceOfAtLeast(k + 1, trials, share);
      const mean = Array.from({ length: trials + 1 }, (_, k) => k * exactly(k)).reduce((sum, x) => sum + x, 0);
      expect(mean).toBeCloseTo(trials * share, 6);
    }
  }
});

test('Wilson’s interval: 15 of 20 wins leave 53 to 89 %', () => {
  const [low, high] = wilsonInterval(15, 20);
  expect(low).toBeCloseTo(0.531, 3);
  expect(high).toBeCloseTo(0.888, 3);
  expect(wilsonInterval(0, 0)).toEqual([0, 1]);
  for (const trials of [1, 5, 50]) {
    expect(wilsonInterval(0, trials)[0]).toBe(0);
    expect(wilsonInterval(trials, trials)[1]).toBeCloseTo(1, 9);
    // Turning the question around turns the interval around.
    const [from, to] = wilsonInterval(1, trials);
    const [back, forth] = wilsonInterval(trials - 1, trials);
    expect(from).toBeCloseTo(1 - forth, 9);
    expect(to).toBeCloseTo(1 - back, 9);
  }
});

test('grades count while the hidden reference is found in all but 15 % of the trials', () => {
  const grades = (missed: number, trials: number) => Array.from({ length: trials }, (_, i) => (i < missed ? 89 : 90));
  expect(gradesCount(grades(3, 20))).toBe(true);
  expect(gradesCount(grades(4, 20))).toBe(false);
  expect(gradesCount(grades(1, 5))).toBe(false);
  expect(gradesCount([])).toBe(false);
});
