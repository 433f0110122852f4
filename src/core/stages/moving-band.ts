import {
  BAND_ATTACK,
  BAND_BASE,
  BAND_BASE_COUNT,
  BAND_BYTES,
  BAND_DETECTOR,
  BAND_DETECTOR_COUNT,
  BAND_ENERGY,
  BAND_ENERGY_SHARE,
  BAND_FULL,
  BAND_FULL_COUNT,
  BAND_HEARD,
  BAND_MOST,
  BAND_MOVE,
  BAND_RANGE,
  BAND_RELEASE,
  BAND_SPAN,
  BAND_STEP_FRAMES,
  BAND_THRESHOLD,
  BAND_TURN,
  BAND_WEIGHT,
  BAND_WHOLE,
  BAND_WHOLE_SHARE,
  SECTION_BYTES,
} from '../kernels/layout';
import { arithmetic } from '../signal/arithmetic';
import { IDENTITY, type Biquad } from '../signal/biquad';
import type { StageContext } from './definition';
import { clearSection, copySectionState, writeSection } from './section';

/** Seconds over which the whole signal is averaged for comparison with a band. */
const WHOLE_SECONDS = 0.02;

/** A band at rest, the same moved by its whole range, and what moves it. */
export interface MovingBandDesign {
  base: readonly Biquad[];
  full: readonly Biquad[];
  /** What of the signal is listened to. */
  detector: readonly Biquad[];
  /** Which channels of the pair it works on. */
  first: boolean;
  second: boolean;
  /** Hz; the level is averaged over about two periods of it. */
  detectorHz: number;
  /** dBFS; dB relative to the whole signal when `relative`. */
  thresholdDb: number;
  relative: boolean;
  /** dB, with its sign. */
  rangeDb: number;
  attackMs: number;
  releaseMs: number;
}

/** A band whose gain follows the level of the signal in it. */
export class MovingBand {
  private readonly block: number;

  constructor(private readonly context: StageContext) {
    this.block = context.kernels.allocate(BAND_BYTES);
  }

  /** Continues from `before`, if given. */
  set(design: MovingBandDesign, before?: MovingBand): void {
    const { kernels, sampleRate } = this.context;
    const { f64, u32 } = kernels;
    const { exp, log } = arithmetic();
    const { block } = this;
    const { first, second, rangeDb, detectorHz } = design;
    const cascades: [at: number, count: number, sections: readonly Biquad[]][] = [
      [BAND_BASE, BAND_BASE_COUNT, design.base],
      [BAND_FULL, BAND_FULL_COUNT, design.full],
      [BAND_DETECTOR, BAND_DETECTOR_COUNT, design.detector],
    ];
    for (const [at, count, sections] of cascades) {
      // With the same number of sections, each continues from its predecessor.
      const same = before && u32[(before.block + count) >> 2] === sections.length;
      u32[(block + count) >> 2] = sections.length;
      sections.forEach((section, k) => {
        const offset = at + k * SECTION_BYTES;
        writeSection(f64, block + offset, first ? section : IDENTITY, second ? section : IDENTITY);
        if (same) copySectionState(f64, before.block + offset, block + offset);
        else clearSection(f64, block + offset);
      });
    }
    const write = (field: number, value: number) => (f64[(block + field) >> 3] = value);
    write(BAND_HEARD, first ? 1 : 0);
    write(BAND_HEARD + 8, second ? 1 : 0);
    // So that the level does not follow the waveform.
    write(BAND_ENERGY_SHARE, 1 - exp(-detectorHz / 2 / sampleRate));
    write(BAND_WHOLE_SHARE, design.relative ? 1 - exp(-1 / (WHOLE_SECONDS * sampleRate)) : 0);
    write(BAND_THRESHOLD, design.thresholdDb);
    write(BAND_RANGE, Math.abs(rangeDb));
    const shareOf = (ms: number) => 1 - exp((-BAND_STEP_FRAMES * 1000) / (ms * sampleRate));
    write(BAND_ATTACK, shareOf(design.attackMs));
    write(BAND_RELEASE, shareOf(design.releaseMs));
    const turn = (Math.sign(rangeDb) * log(10)) / 20;
    const span = 1 / (exp((rangeDb * log(10)) / 20) - 1);
    write(BAND_TURN, turn);
    write(BAND_SPAN, span);
    const held = (field: number) => (before ? f64[(before.block + field) >> 3] : 0);
    for (const field of [BAND_ENERGY, BAND_ENERGY + 8, BAND_WHOLE, BAND_WHOLE + 8, BAND_MOST])
      write(field, held(field));
    const moved = Math.min(held(BAND_MOVE), Math.abs(rangeDb));
    write(BAND_MOVE, moved);
    write(BAND_WEIGHT, before ? (exp(turn * moved) - 1) * span : 0);
  }

  process(left: number, right: number, frames: number): void {
    this.context.kernels.run.dynamicBand(this.block, left, right, frames);
  }

  /** dB by which the gain is moved now, with its sign. */
  moved(): number {
    const { f64 } = this.context.kernels;
    return f64[(this.block + BAND_MOVE) >> 3] * (f64[(this.block + BAND_TURN) >> 3] < 0 ? -1 : 1);
  }

  /** Furthest move in dB since the last call, without a sign. */
  takeMost(): number {
    const { f64 } = this.context.kernels;
    const at = (this.block + BAND_MOST) >> 3;
    const most = f64[at];
    f64[at] = 0;
    return most;
  }
}
