import { amplitude } from '../../signal/decibels';
import type { Biquad } from '../../signal/biquad';
import { bandSections } from '../equalizer/design';
import { equalizerBand } from '../equalizer/settings';
import type { MonoShape, StereoSettings } from './settings';

/** dB per octave at each corner. */
const MONO_SLOPES: Record<MonoShape, number> = { gentle: 6, medium: 12, steep: 24 };

/** Gains from left and right to left and right, by rows; applied before everything that works on mid and side. */
export function inputMatrix(settings: StereoSettings): [number, number, number, number] {
  const { swap, invertLeft, invertRight, leftDb, rightDb } = settings;
  const left = amplitude(leftDb) * (invertLeft ? -1 : 1);
  const right = amplitude(rightDb) * (invertRight ? -1 : 1);
  return swap ? [0, left, right, 0] : [left, 0, 0, right];
}

/** The width in percent that all of the first `bands` bands have; null when they differ. */
export function commonWidth({ widthsPercent }: StereoSettings, bands: number): number | null {
  const [first, ...others] = widthsPercent.slice(0, bands);
  return others.every((width) => width === first) ? first : null;
}

/** Gains of mid and side; a width that all bands share needs no splitting. */
export function midSideGains(settings: StereoSettings, bands: number): [mid: number, side: number] {
  const { midSideDb } = settings;
  const width = commonWidth(settings, bands) ?? 100;
  return [amplitude(-midSideDb / 2), (amplitude(midSideDb / 2) * width) / 100];
}

/** Sections that the side passes. */
export function sideSections(settings: StereoSettings, sampleRate: number): Biquad[] {
  const highPass = (frequencyHz: number, slopeDbPerOctave: number) =>
    bandSections(equalizerBand.parse({ shape: 'highPass', frequencyHz, slopeDbPerOctave }), sampleRate);
  const { monoBelow, monoUpperHz, monoLowerHz, monoShape } = settings;
  return [
    ...(monoBelow ? [monoUpperHz, monoLowerHz].flatMap((hz) => highPass(hz, MONO_SLOPES[monoShape])) : []),
    ...(settings.sideHighPass ? highPass(settings.sideHighPassHz, settings.sideSlopeDbPerOctave) : []),
  ];
}
