import { arithmetic } from './arithmetic';
import { besselI0 } from './bessel';

/** Taps of the odd phase of the half-band filter of each doubling, from the first on; the even phase is one delay. */
const TAPS_OF_DOUBLING = [64, 16, 12, 8] as const;
/** Kaiser's β of each: as much stopband as the taps give where it is needed. */
const BETA_OF_DOUBLING = [9.2, 10, 12, 9.4] as const;

/** All-pass sections of each doubling of least latency, and the width of its transition as a share of its own rate. */
const ALL_PASSES_OF_DOUBLING = [
  [8, 0.0464],
  [3, 0.25],
  [2, 0.375],
  [2, 0.4375],
] as const;

/**
 * Odd phase of a half-band interpolator of linear phase, an even number of symmetric taps that sum to 1: a Kaiser-windowed
 * sinc. `doubling` counts from 0, which has the narrowest transition: flat to 20 kHz of 44.1 kHz.
 */
export function linearHalfBand(doubling: number): number[] {
  const count = TAPS_OF_DOUBLING[doubling];
  const beta = BETA_OF_DOUBLING[doubling];
  const taps = Array.from({ length: count }, (_, k) => {
    const distance = k - (count - 1) / 2;
    const place = distance / (count / 2);
    const sign = Math.abs(distance - 0.5) % 2 === 0 ? 1 : -1;
    const window = besselI0(beta * Math.sqrt(1 - place * place)) / besselI0(beta);
    return (sign * window) / (Math.PI * distance);
  });
  const sum = taps.reduce((a, b) => a + b, 0);
  return taps.map((tap) => tap / sum);
}

/**
 * Coefficients of the all-pass sections (a + z⁻¹) / (1 + a z⁻¹) of a half-band filter ½ (A₀(z²) + z⁻¹ A₁(z²)), which belong
 * to A₀ and A₁ in turns: the elliptic design in closed form (R. A. Valenzuela, A. G. Constantinides, "Digital signal
 * processing schemes for efficient interpolation and decimation", IEE Proc. 1983; the series of Jacobi's nome from memory).
 */
export function leastLatencyHalfBand(doubling: number): number[] {
  const { sin, cos, pow } = arithmetic();
  const [count, transition] = ALL_PASSES_OF_DOUBLING[doubling];
  const angle = ((1 - 2 * transition) * Math.PI) / 4;
  const tangent = sin(angle) / cos(angle);
  const k = tangent * tangent;
  const root = Math.sqrt(Math.sqrt(1 - k * k));
  const e = (0.5 * (1 - root)) / (1 + root);
  const e4 = e * e * e * e;
  const nome = e * (1 + e4 * (2 + e4 * (15 + e4 * 150)));
  const order = 2 * count + 1;
  return Array.from({ length: count }, (_, i) => {
    const step = ((i + 1) * Math.PI) / order;
    let numerator = 0;
    let denominator = 0.5;
    for (let j = 0, sign = 1; j < 12; j++, sign = -sign) {
      numerator += sign * pow(nome, j * (j + 1)) * sin((2 * j + 1) * step);
      if (j > 0) denominator += sign * pow(nome, j * j) * cos(2 * j * step);
    }
    const w = (pow(nome, 0.25) * numerator) / denominator;
    const x = Math.sqrt((1 - w * w * k) * (1 - (w * w) / k)) / (1 + w * w);
    return (1 - x) / (1 + x);
  });
}

/** Latency in frames, up and down together, of the first `doublings` doublings. */
export function halfBandLatency(phase: 'linear' | 'least', doublings: number): number {
  let frames = 0;
  for (let doubling = 0; doubling < doublings; doubling++) {
    // At 0 Hz an all-pass section is late by (1 − a) / (1 + a) of its frames.
    const own =
      phase === 'linear'
        ? TAPS_OF_DOUBLING[doubling]
        : leastLatencyHalfBand(doubling).reduce((sum, a) => sum + (1 - a) / (1 + a), 0.5);
    frames += own / 2 ** doubling;
  }
  return Math.round(frames);
}
