import type { Biquad } from '../../signal/biquad';
import { inverse } from '../../signal/biquad';
import { butterworthQs } from '../../signal/butterworth';
import { amplitude } from '../../signal/decibels';
import { matched, matchedTilt } from '../../signal/matched';
import { highPassPrototype } from '../../signal/prototype';
import { CURVE_FORMULAS, CURVES, hasEvenHarmonics } from './curves';
import { UNPROTECTED_HZ, type SaturationSettings } from './settings';

const TILT_PIVOT_HZ = 1000;
/** DC is removed after a curve that creates it. */
const STILL_HZ = 5;
/** 24 dB per octave. */
const PROTECTION_ORDER = 4;
/** Bias of 100 %, in units of the curve's input. */
const FULL_BIAS = 0.6;
/** Samples spread evenly up to this amplitude have a level of −14 dBFS: where the wet sound is as loud as the dry. */
const REFERENCE_AMPLITUDE = 0.345;
const REFERENCE_SAMPLES = 64;

/** What one path through a curve does. */
export interface PathDesign {
  /** Number of the curve in the kernel. */
  curve: number;
  drive: number;
  bias: number;
  gain: number;
  /** 0 to 1, of the first and the second channel. */
  amounts: [first: number, second: number];
  midSide: boolean;
  /** Whether nothing of the dry sound is ever heard. */
  wetOnly: boolean;
  before: Biquad | null;
  /** After the curve: DC removal and tone. */
  after: Biquad[];
  /** What of the signal goes into the curve; the rest passes untouched. Empty for everything. */
  high: Biquad[];
  makeup: number;
}

/**
 * What goes into the curve for a sample, and what comes out of the wet path, tones left out: what the picture draws.
 */
export function wetSample(settings: SaturationSettings, x: number, extraDriveDb = 0): number {
  const { drive, bias, gain } = curveScale(settings, extraDriveDb);
  const curve = CURVE_FORMULAS[settings.curve];
  return gain * (curve(drive * x + bias) - curve(bias));
}

/** Drive, bias, and the gain that keeps a level of −14 dBFS. */
function curveScale({ curve, driveDb, biasPercent }: SaturationSettings, extraDriveDb: number) {
  const drive = amplitude(driveDb + extraDriveDb);
  const bias = (FULL_BIAS * biasPercent) / 100;
  const bend = CURVE_FORMULAS[curve];
  let dry = 0;
  let wet = 0;
  let mean = 0;
  for (let i = 0; i < REFERENCE_SAMPLES; i++) {
    const x = REFERENCE_AMPLITUDE * ((2 * i + 1) / REFERENCE_SAMPLES - 1);
    const y = bend(drive * x + bias);
    dry += x * x;
    wet += y * y;
    mean += y;
  }
  return { drive, bias, gain: Math.sqrt(dry / (wet - (mean * mean) / REFERENCE_SAMPLES)) };
}

function tilt(db: number, sampleRate: number): Biquad | null {
  if (Math.abs(db) < 0.05) return null;
  const falling = matchedTilt(-Math.abs(db), (2 * Math.PI * TILT_PIVOT_HZ) / sampleRate);
  return db < 0 ? falling : inverse(falling);
}

/** What a stage's settings mean for the whole signal, or for one of its bands. */
export function pathDesign(settings: SaturationSettings, sampleRate: number, band: number | null): PathDesign {
  const { part, mixPercent, toneBeforeDb, toneUndone, protectBelowHz, curve, movement } = settings;
  const share = band === null ? 1 : settings.bandAmountsPercent[band] / 100;
  const amount = (mixPercent / 100) * share;
  const radians = (hz: number) => (2 * Math.PI * hz) / sampleRate;
  const before = tilt(toneBeforeDb, sampleRate);
  const tone = toneUndone ? before && inverse(before) : tilt(settings.toneAfterDb, sampleRate);
  const amounts: PathDesign['amounts'] = [part === 'side' ? 0 : amount, part === 'mid' ? 0 : amount];
  const high =
    protectBelowHz > UNPROTECTED_HZ
      ? butterworthQs(PROTECTION_ORDER).map((q) => matched(highPassPrototype(q), radians(protectBelowHz)))
      : [];
  const still = hasEvenHarmonics(settings) ? matched(highPassPrototype(Math.SQRT1_2), radians(STILL_HZ)) : null;
  return {
    curve: CURVES.indexOf(curve),
    ...curveScale(settings, band === null ? 0 : settings.bandDrivesDb[band]),
    amounts,
    midSide: part !== 'stereo',
    wetOnly: movement === 'still' && amounts[0] === 1 && amounts[1] === 1 && high.length === 0,
    before,
    after: [still, tone].filter((section) => section !== null),
    high,
    makeup: amplitude(settings.makeupDb),
  };
}
