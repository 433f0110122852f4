import { ClockWatch } from './clock-watch';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

test('a clock that stands still is told once, and once that it goes on', () => {
  let time: number | null = null;
  const told: boolean[] = [];
  const watch = new ClockWatch(
    () => time,
    (stalled) => told.push(stalled),
  );
  const pass = (seconds: number, rate: number) => {
    for (let i = 0; i < seconds; i++) {
      if (time !== null) time += rate;
      jest.advanceTimersByTime(1000);
    }
  };
  watch.start();
  pass(5, 1);
  time = 10;
  pass(5, 1);
  expect(told).toEqual([]);
  pass(2, 0);
  expect(told).toEqual([]);
  pass(4, 0);
  expect(told).toEqual([true]);
  pass(3, 0.5);
  expect(told).toEqual([true, false]);
  pass(4, 0);
  watch.stop();
  expect(told).toEqual([true, false, true, false]);
  pass(9, 0);
  expect(told).toHaveLength(4);
});
