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
  const channels = [kernels.allocate(QUANTUM * 8), kernels.allocate(QUANTUM * 8)];
  const given = saturationSettings.parse(settings);
  return Array.from({ length: quanta }, (_, q) => {
    for (const channel of channels) kernels.view64(channel, QUANTUM).set(noise(QUANTUM, amplitude, q + 1));
    const before = movement.shares.at(-1);
    movement.follow(given, channels[0], channels[1], q * QUANTUM);
    // It goes on from where it was, so that nothing jumps.
    expect(movement.shares[0]).toBe(before);
    return movement.shares.at(-1)!;
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

test('NaN does not stay', () => {
  const kernels = new Kernels();
  const movement = new Movement(kernels, RATE);
  const channel = kernels.allocate(QUANTUM * 8);
  const settings = saturationSettings.parse({ movement: 'level' });
  kernels.view64(channel, QUANTUM).fill(NaN);
  movement.follow(settings, channel, channel, 0);
  kernels.view64(channel, QUANTUM).fill(0.5);
  for (let i = 0; i < 200; i++) movement.follow(settings, channel, channel, 0);
  expect(movement.shares.at(-1)).toBe(1);
});

test('the same place in the track has the same amount, whatever was played before', () => {
  const kernels = new Kernels();
  const [first, second] = [new Movement(kernels, RATE), new Movement(kernels, RATE)];
  const silent = kernels.allocate(QUANTUM * 8);
  const settings = saturationSettings.parse({ movement: 'wander', rateHz: 300, depthPercent: 100 });
  for (const frame of [0, 90_000, 12_800]) first.follow(settings, silent, silent, frame);
  second.follow(settings, silent, silent, 12_800);
  expect([...first.shares].slice(1)).toEqual([...second.shares].slice(1));
});

test('at 300 Hz straight lines between the amounts follow the wave within 3 %', () => {
  const kernels = new Kernels();
  const movement = new Movement(kernels, RATE);
  const silent = kernels.allocate(QUANTUM * 8);
  const rateHz = 300;
  const settings = saturationSettings.parse({ movement: 'wander', rateHz, depthPercent: 100 });
  const wave = (turns: number) =>
    0.5 + 0.3 * Math.sin(2 * Math.PI * turns) + 0.2 * Math.sin(2 * Math.PI * turns * 0.6180339887);
  for (let q = 0; q < 20; q++) {
    movement.follow(settings, silent, silent, q * QUANTUM);
    const parts = movement.shares.length - 1;
    const frames = QUANTUM / parts;
    // The first part of the first quantum comes from where the amount was before.
    for (let part = q === 0 ? 1 : 0; part < parts; part++) {
      for (let i = 0; i < frames; i++) {
        const [from, to] = [movement.shares[part], movement.shares[part + 1]];
        const drawn = from + ((to - from) * i) / frames;
        expect(Math.abs(drawn - wave((rateHz * (q * QUANTUM + part * frames + i)) / RATE))).toBeLessThan(0.03);
      }
    }
  }
});
