import { noise } from '../../../../tests/support/signals';
import { Kernels } from '../../kernels/host';
import { QUANTUM } from '../../kernels/layout';
import { Movement } from './movement';
import { saturationSettings } from './settings';

const RATE = 48000;

/** Shares at the end of each quantum while noise of a level comes in. */
function shares(settings: object, amplitude: number, quanta: number): number[] {
  const kernels = new Kernels();
  const movement = new Movement(kernels, RATE);
  const sides = [kernels.allocate(QUANTUM * 8), kernels.allocate(QUANTUM * 8)];
  const given = saturationSettings.parse(settings);
  return Array.from({ length: quanta }, (_, q) => {
    for (const side of sides) kernels.view64(side, QUANTUM).set(noise(QUANTUM, amplitude, q + 1));
    const before = movement.to;
    movement.follow(given, sides[0], sides[1]);
    // It goes on from where it was, so that nothing jumps.
    expect(movement.from).toBe(before);
    return movement.to;
  });
}

test('an amount that stays is whole', () => {
  expect(shares({ movement: 'still', depthPercent: 100 }, 0.5, 5)).toEqual([1, 1, 1, 1, 1]);
});

test('with the level: whole from −12 dBFS on, none below −42, half way in decibels between', () => {
  const settled = (rmsDbfs: number, depthPercent = 100) =>
    shares({ movement: 'level', depthPercent }, Math.sqrt(3) * 10 ** (rmsDbfs / 20), 400).at(-1)!;
  expect(settled(-6)).toBe(1);
  expect(settled(-27)).toBeCloseTo(0.5, 1);
  expect(settled(-50)).toBe(0);
  // The depth is how far it goes down.
  expect(settled(-50, 40)).toBeCloseTo(0.6, 6);
});

test('by itself: within its depth, all over it, slowly', () => {
  const rateHz = 2;
  const wandering = shares({ movement: 'wander', rateHz, depthPercent: 100 }, 0.1, 6 * 375);
  expect(Math.min(...wandering)).toBeLessThan(0.1);
  expect(Math.max(...wandering)).toBeGreaterThan(0.9);
  expect(Math.min(...wandering)).toBeGreaterThanOrEqual(0);
  const steps = wandering.slice(1).map((share, i) => Math.abs(share - wandering[i]));
  // 2π · rate · 0.3, and 0.618 of that with 0.2, a second.
  expect(Math.max(...steps)).toBeLessThan((2 * Math.PI * rateHz * (0.3 + 0.2 * 0.619) * QUANTUM) / RATE);
});

test('what is no number does not stay', () => {
  const kernels = new Kernels();
  const movement = new Movement(kernels, RATE);
  const side = kernels.allocate(QUANTUM * 8);
  const settings = saturationSettings.parse({ movement: 'level' });
  kernels.view64(side, QUANTUM).fill(NaN);
  movement.follow(settings, side, side);
  kernels.view64(side, QUANTUM).fill(0.5);
  for (let i = 0; i < 200; i++) movement.follow(settings, side, side);
  expect(movement.to).toBe(1);
});
