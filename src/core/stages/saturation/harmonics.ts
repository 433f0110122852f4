import { amplitude, decibels } from '../../signal/decibels';
import { wetSample } from './design';
import type { SaturationSettings } from './settings';

const POINTS = 512;

/**
 * Levels in dB of the harmonics 2 … `count` of a tone at a level in dBFS, against its fundamental, through curve and
 * dry/wet, without tones and without aliasing; −infinity for one that is not there.
 */
export function toneHarmonics(settings: SaturationSettings, dbfs: number, count: number): number[] {
  const level = amplitude(dbfs);
  const wet = settings.mixPercent / 100;
  const wave = Float64Array.from({ length: POINTS }, (_, i) => {
    const x = level * Math.sin((2 * Math.PI * i) / POINTS);
    return x + wet * (wetSample(settings, x) - x);
  });
  const size = (n: number) => {
    let [re, im] = [0, 0];
    for (let i = 0; i < POINTS; i++) {
      re += wave[i] * Math.cos((2 * Math.PI * n * i) / POINTS);
      im += wave[i] * Math.sin((2 * Math.PI * n * i) / POINTS);
    }
    return Math.hypot(re, im);
  };
  const first = size(1);
  return Array.from({ length: count - 1 }, (_, i) => {
    const ratio = size(i + 2) / first;
    return ratio > 1e-9 ? decibels(ratio) : -Infinity;
  });
}
