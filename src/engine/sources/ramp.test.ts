import fc from 'fast-check';
import { Ramp } from './ramp';

const values = (ramp: Ramp, count: number) => Array.from({ length: count }, () => ramp.next());

test('a ramp arrives exactly, by an S-curve whose middle lies halfway', () => {
  const ramp = new Ramp(2, 100);
  ramp.moveTo(-1);
  const way = values(ramp, 100);
  expect(ramp.resting).toBe(true);
  expect(way[99]).toBe(-1);
  expect(way[50]).toBeCloseTo(0.5, 1);
  // The sharpest bend is that of two parabolas: 4 times the way over the square of the time.
  const bends = way.slice(2).map((value, i) => Math.abs(value - 2 * way[i + 1] + way[i]));
  expect(Math.max(...bends.slice(0, -1))).toBeLessThan(((4 * 3) / 100 ** 2) * 1.01);
  expect(values(ramp, 3)).toEqual([-1, -1, -1]);
});

test('whatever it is told on the way, a ramp never leaves the range of its targets by more than a step, and ends at the last', () => {
  const target = fc.double({ min: -4, max: 4, noNaN: true });
  fc.assert(
    fc.property(
      fc.array(fc.tuple(target, fc.integer({ min: 0, max: 80 })), { minLength: 1, maxLength: 6 }),
      (moves) => {
        const ramp = new Ramp(0, 40);
        const seen: number[] = [];
        for (const [to, frames] of moves) {
          ramp.moveTo(to);
          seen.push(...values(ramp, frames));
        }
        seen.push(...values(ramp, 40));
        const targets = [0, ...moves.map(([to]) => to)];
        const room = 8 / 20;
        expect(Math.min(...seen)).toBeGreaterThanOrEqual(Math.min(...targets) - room);
        expect(Math.max(...seen)).toBeLessThanOrEqual(Math.max(...targets) + room);
        expect(ramp.next() - targets[targets.length - 1]).toBe(0);
      },
    ),
  );
});

test('a target that it has already changes nothing', () => {
  const ramp = new Ramp(1, 10);
  ramp.moveTo(1);
  expect(ramp.resting).toBe(true);
  expect(ramp.next()).toBe(1);
});
