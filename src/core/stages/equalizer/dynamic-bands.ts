import {
  BAND_ATTACK,
  BAND_BASE,
  BAND_BYTES,
  BAND_DETECTOR,
  BAND_ENERGY,
  BAND_ENERGY_SHARE,
  BAND_FULL,
  BAND_HEARD,
  BAND_MOVE,
  BAND_RANGE,
  BAND_RELEASE,
  BAND_SPAN,
  BAND_STEP_FRAMES,
  BAND_THRESHOLD,
  BAND_TURN,
  BAND_WEIGHT,
} from '../../kernels/layout';
import { arithmetic } from '../../signal/arithmetic';
import { IDENTITY, type Biquad } from '../../signal/biquad';
import type { StageContext } from '../definition';
import { bandSections } from './design';
import { clearSection, copySectionState, writeSection } from './section';
import { MAX_BANDS, type BandDynamics, type EqualizerBand } from './settings';

/** Q of what a shelf listens to: Butterworth. */
const SHELF_DETECTOR_Q = Math.SQRT1_2;

/** What of the signal decides how far a band moves: what a bell works on, or all beyond a shelf's midpoint. */
export function detectorBand({ shape, frequencyHz, q }: EqualizerBand): Pick<EqualizerBand, 'shape' | 'q'> & {
  frequencyHz: number;
} {
  if (shape === 'lowShelf') return { shape: 'lowPass', frequencyHz, q: SHELF_DETECTOR_Q };
  if (shape === 'highShelf') return { shape: 'highPass', frequencyHz, q: SHELF_DETECTOR_Q };
  return { shape: 'bandPass', frequencyHz, q };
}

/** State blocks of the bands that move, one for each band of the equalizer. */
export class DynamicBands {
  private readonly blocks: number;

  constructor(private readonly context: StageContext) {
    this.blocks = context.kernels.allocate(MAX_BANDS * BAND_BYTES);
  }

  /** Address of a band's block. */
  block(index: number): number {
    return this.blocks + index * BAND_BYTES;
  }

  /** Sets a band up; `first` and `second` say which sides of its pair it works on. Goes on from `before` when there is one. */
  set(
    index: number,
    band: EqualizerBand & { dynamics: BandDynamics },
    scalePercent: number,
    first: boolean,
    second: boolean,
    before: DynamicBands | undefined,
  ): void {
    const { kernels, sampleRate } = this.context;
    const { f64 } = kernels;
    const { exp, log } = arithmetic();
    const block = this.block(index);
    const { thresholdDbfs, attackMs, releaseMs } = band.dynamics;
    const rangeDb = (band.dynamics.rangeDb * scalePercent) / 100;
    const baseDb = (band.gainDb * scalePercent) / 100;
    const still = { ...band, dynamics: null };
    const at = (gainDb: number): Biquad => bandSections({ ...still, gainDb }, sampleRate)[0] ?? IDENTITY;
    const detector = bandSections({ ...still, ...detectorBand(band), slopeDbPerOctave: 12 }, sampleRate)[0];
    const sections: [number, Biquad][] = [
      [BAND_BASE, at(baseDb)],
      [BAND_FULL, at(baseDb + rangeDb)],
      [BAND_DETECTOR, detector],
    ];
    for (const [offset, section] of sections) {
      writeSection(f64, block + offset, first ? section : IDENTITY, second ? section : IDENTITY);
      if (before) copySectionState(f64, before.block(index) + offset, block + offset);
      else clearSection(f64, block + offset);
    }
    const write = (field: number, value: number) => (f64[(block + field) >> 3] = value);
    write(BAND_HEARD, first ? 1 : 0);
    write(BAND_HEARD + 8, second ? 1 : 0);
    // The mean is taken over about two periods, so that the level does not follow the waveform.
    write(BAND_ENERGY_SHARE, 1 - exp(-band.frequencyHz / 2 / sampleRate));
    write(BAND_THRESHOLD, thresholdDbfs);
    write(BAND_RANGE, Math.abs(rangeDb));
    const shareOf = (ms: number) => 1 - exp((-BAND_STEP_FRAMES * 1000) / (ms * sampleRate));
    write(BAND_ATTACK, shareOf(attackMs));
    write(BAND_RELEASE, shareOf(releaseMs));
    write(BAND_TURN, (Math.sign(rangeDb) * log(10)) / 20);
    write(BAND_SPAN, 1 / (exp((rangeDb * log(10)) / 20) - 1));
    const state = (block + BAND_ENERGY) >> 3;
    if (before) {
      const from = before.block(index) >> 3;
      f64.copyWithin(state, from + (BAND_ENERGY >> 3), from + (BAND_ENERGY >> 3) + 2);
      const moved = Math.min(f64[from + (BAND_MOVE >> 3)], Math.abs(rangeDb));
      write(BAND_MOVE, moved);
      write(BAND_WEIGHT, (exp(f64[(block + BAND_TURN) >> 3] * moved) - 1) * f64[(block + BAND_SPAN) >> 3]);
    } else {
      f64.fill(0, state, state + 2);
      write(BAND_MOVE, 0);
      write(BAND_WEIGHT, 0);
    }
  }

  /** dB by which a band's gain is moved now, with its sign. */
  moved(index: number): number {
    const { f64 } = this.context.kernels;
    const block = this.block(index);
    return f64[(block + BAND_MOVE) >> 3] * (f64[(block + BAND_TURN) >> 3] < 0 ? -1 : 1);
  }
}
