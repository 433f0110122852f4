import type { Biquad } from '../../signal/biquad';
import { linkwitzRiley } from '../../signal/crossover';
import { arithmetic } from '../../signal/arithmetic';
import { Random } from '../../signal/random';
import type { ImpulseResponse } from '../definition';

/** A room as it is synthesised. Times in seconds. */
interface Room {
  seed: number;
  /** Time in which the low, middle and high part of the tail fall by 60 dB. */
  decays: readonly [low: number, middle: number, high: number];
  /** First and last of the early reflections, and their number for each channel. */
  early: { from: number; to: number; count: number };
  /** When the tail has grown to its full density. */
  dense: number;
  /** Energy of the early reflections against the tail's. */
  presence: number;
}

const ROOMS: Record<'studio' | 'hall', Room> = {
  studio: {
    seed: 71,
    decays: [0.42, 0.36, 0.24],
    early: { from: 0.003, to: 0.03, count: 14 },
    dense: 0.02,
    presence: 0.8,
  },
  hall: {
    seed: 97,
    decays: [2.1, 1.8, 0.9],
    early: { from: 0.014, to: 0.09, count: 18 },
    dense: 0.08,
    presence: 0.35,
  },
};

/** Where the three parts of the tail meet, in Hz. */
const CROSSOVERS_HZ = [400, 4000];

function filtered({ b0, b1, b2, a1, a2 }: Biquad, x: Float64Array): Float64Array {
  const y = new Float64Array(x.length);
  let s1 = 0;
  let s2 = 0;
  for (let i = 0; i < x.length; i++) {
    y[i] = b0 * x[i] + s1;
    s1 = b1 * x[i] - a1 * y[i] + s2;
    s2 = b2 * x[i] - a2 * y[i];
  }
  return y;
}

function energy(x: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < x.length; i++) sum += x[i] * x[i];
  return sum;
}

/** Decaying noise whose low, middle and high parts each have their own time. */
function tail({ decays, dense }: Room, random: Random, frames: number, sampleRate: number): Float64Array {
  const { exp, log } = arithmetic();
  const noise = Float64Array.from({ length: frames }, () => random.triangular());
  const [lower, upper] = CROSSOVERS_HZ.map((hz) => linkwitzRiley((2 * Math.PI * hz) / sampleRate));
  const twice = (section: Biquad, x: Float64Array) => filtered(section, filtered(section, x));
  const rest = twice(lower.high, noise);
  const parts = [twice(lower.low, noise), twice(upper.low, rest), twice(upper.high, rest)];
  const sum = new Float64Array(frames);
  parts.forEach((part, p) => {
    const fall = exp((-3 * log(10)) / (decays[p] * sampleRate));
    let gain = 1;
    for (let i = 0; i < frames; i++) {
      sum[i] += part[i] * gain * Math.min(1, i / (dense * sampleRate));
      gain *= fall;
    }
  });
  return sum;
}

/** Single reflections, sooner the stronger, of either sign. */
function reflections({ early }: Room, random: Random, frames: number, sampleRate: number): Float64Array {
  const channel = new Float64Array(frames);
  for (let i = 0; i < early.count; i++) {
    const time = early.from + (early.to - early.from) * ((i + random.uniform()) / early.count);
    channel[Math.round(time * sampleRate)] += (early.from / time) * (random.uniform() < 0.5 ? -1 : 1);
  }
  return channel;
}

const made = new Map<string, ImpulseResponse>();

/** Impulse response of a room at a sample rate in Hz: the same numbers on every machine; each channel has an energy of 1. */
export function synthesisedImpulse(name: 'studio' | 'hall', sampleRate: number): ImpulseResponse {
  const key = `${name} ${sampleRate}`;
  const known = made.get(key);
  if (known) return known;
  const room = ROOMS[name];
  const frames = Math.ceil(1.1 * Math.max(...room.decays) * sampleRate);
  const channel = (seed: number) => {
    const random = new Random(seed);
    const early = reflections(room, random, frames, sampleRate);
    const late = tail(room, random, frames, sampleRate);
    const weight = Math.sqrt((room.presence * energy(late)) / energy(early));
    const whole = late.map((x, i) => x + weight * early[i]);
    const scale = 1 / Math.sqrt(energy(whole));
    return Float32Array.from(whole, (x) => x * scale);
  };
  const response = { left: channel(room.seed), right: channel(room.seed + 1) };
  made.set(key, response);
  return response;
}
