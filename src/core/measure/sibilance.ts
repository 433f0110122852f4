import { IDENTITY, type Biquad } from '../signal/biquad';
import { powerDecibels } from '../signal/decibels';
import { matched } from '../signal/matched';
import { bandPassPrototype } from '../signal/prototype';

/** Sibilants that stand out of a programme. */
export interface SibilanceReading {
  perMinute: number;
  /** Hz; where they are loudest. */
  frequencyHz: number;
  /** Level of the band around that frequency against the whole signal, in dB: in sibilants, and in all else but a tenth. */
  sibilantDb: number;
  elseDb: number;
  /** dB by which the band is louder in sibilants than it usually is. */
  overDb: number;
}

/** Where sibilants of voices lie, in Hz, and how wide a band around (common practice, no source). */
const CENTRES_HZ = [5200, 7000, 9400];
const BAND_Q = 1.4;
const WINDOW_SECONDS = 0.02;
/** A sibilant lasts from 60 to 240 ms, in windows; what is shorter is a cymbal or a click (common practice, no source). */
const LASTS = [3, 12];
/** It stands out of what is usual by this in dB, and comes this close to the level of the whole signal. */
const STANDS_OUT_DB = 9;
const CLOSE_DB = -8;
/** Windows so much quieter than the mean are pauses, in dB. */
const PAUSE_DB = -25;

const quantile = (values: readonly number[], share: number) =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(share * values.length))];

/** Power of the middle in each window, where voices are; of a band of it when a filter is given. */
function windows(left: Float32Array, right: Float32Array, sampleRate: number, band: Biquad = IDENTITY): Float64Array {
  const span = Math.round(WINDOW_SECONDS * sampleRate);
  const powers = new Float64Array(Math.floor(left.length / span));
  const { b0, b1, b2, a1, a2 } = band;
  let [s1, s2] = [0, 0];
  for (let w = 0, i = 0; w < powers.length; w++) {
    let power = 0;
    for (const end = i + span; i < end; i++) {
      const x = (left[i] + right[i]) / 2;
      const y = b0 * x + s1;
      // Far below any sound: it keeps the state of the filter from becoming denormal in silence.
      s1 = b1 * x - a1 * y + s2 + 1e-30;
      s2 = b2 * x - a2 * y;
      power += y * y;
    }
    powers[w] = power / span;
  }
  return powers;
}

/** Sibilants in one band; null where there are none. */
function inBand(band: Float64Array, whole: Float64Array, frequencyHz: number): SibilanceReading | null {
  const mean = whole.reduce((sum, x) => sum + x, 0) / whole.length;
  const heard = Array.from(whole, (power) => powerDecibels(power / mean) > PAUSE_DB);
  const relative = Array.from(band, (power, w) => powerDecibels(power / whole[w]));
  const level = Array.from(band, powerDecibels);
  const only = (values: number[]) => values.filter((_, w) => heard[w]);
  const usual = quantile(only(level), 0.5);
  const floor = Math.max(CLOSE_DB, quantile(only(relative), 0.5) + STANDS_OUT_DB);
  const out = heard.map((is, w) => is && relative[w] >= floor && level[w] >= usual + STANDS_OUT_DB);
  const sibilant: number[] = [];
  let count = 0;
  for (let w = 0; w < out.length;) {
    let end = w;
    while (out[end]) end++;
    if (end - w >= LASTS[0] && end - w <= LASTS[1]) {
      count++;
      for (let i = w; i < end; i++) sibilant.push(i);
    }
    w = end + 1;
  }
  if (count === 0) return null;
  const others = new Set(sibilant);
  return {
    perMinute: (60 * count) / (whole.length * WINDOW_SECONDS),
    frequencyHz,
    sibilantDb: quantile(
      sibilant.map((w) => relative[w]),
      0.5,
    ),
    elseDb: quantile(only(relative.map((db, w) => (others.has(w) ? -Infinity : db))), 0.9),
    overDb:
      quantile(
        sibilant.map((w) => level[w]),
        0.5,
      ) - usual,
  };
}

/** Sibilants that stand out of a programme of planar channels; null where none do. `sampleRate` in Hz. */
export function sibilanceOf(left: Float32Array, right: Float32Array, sampleRate: number): SibilanceReading | null {
  const whole = windows(left, right, sampleRate);
  if (!whole.some((power) => power > 0)) return null;
  const found = CENTRES_HZ.flatMap((hz) => {
    const filter = matched(bandPassPrototype(BAND_Q), (2 * Math.PI * hz) / sampleRate);
    return inBand(windows(left, right, sampleRate, filter), whole, hz) ?? [];
  });
  return found.reduce<SibilanceReading | null>(
    (most, each) => (most && most.overDb >= each.overDb ? most : each),
    null,
  );
}
