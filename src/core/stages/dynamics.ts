import * as layout from '../kernels/layout';
import { arithmetic } from '../signal/arithmetic';
import type { Biquad } from '../signal/biquad';
import { powerDecibels } from '../signal/decibels';
import type { StageContext } from './definition';
import { clearSection, copySectionState, writeSection } from './section';

/** Seconds over which the crest factor is taken (Giannoulis, Massberg, Reiss, JAES 2013; from memory). */
const CREST_SECONDS = 0.2;
/** Seconds of a mean-square detector. */
const MEAN_SECONDS = 0.01;
/** A knee that is none, in dB. */
const HARD_KNEE = 1e-6;
/** Share of the attack at which two equal poles each stand, so that both together reach 63 % at the attack time. */
const TWO_POLES = 2.1462;
/** Most of the wanted reduction that can come at once. */
const MOST_AT_ONCE = 0.45;

/** What a gain follows, and how. Levels and gains in dB, times in ms. */
export interface DynamicsDesign {
  /** Reduces what is louder than the threshold, or what is quieter. */
  direction: 'above' | 'below';
  thresholdDbfs: number;
  /** dB of reduction for each dB beyond the threshold. */
  slope: number;
  kneeDb: number;
  /** dB in which the slope grows to three quarters of its full value; 0 for the same slope everywhere. */
  growthDb: number;
  rangeDb: number;
  attackMs: number;
  /** −1: lets the transient through; 0: an exponential; 1: catches it. */
  onset: number;
  releaseMs: number;
  /** How often quicker the release is while what comes out is above the threshold: a feedback loop. */
  loop: number;
  /** Lets the release follow the crest factor. */
  autoRelease: boolean;
  /** A release in two stages: a memory that fills and empties in these times (ms) holds half of itself back. */
  memory: { riseMs: number; fallMs: number } | null;
  detector: 'peak' | 'rms';
  /** Sections before the detector, two at most. */
  sideChain: readonly Biquad[];
  /** 0: each channel by itself; 1: both by the louder one. */
  link: number;
  /** Which channels of the pair are listened to and used. */
  first: boolean;
  second: boolean;
  /** Amplitude ratios of the untouched and of the worked signal in the output. */
  dry: number;
  wet: number;
  /** Strength of the odd harmonics. */
  colour: number;
}

/** The plainest of all: everything that a design can leave as it is. */
export const PLAIN: Omit<DynamicsDesign, 'thresholdDbfs' | 'slope' | 'attackMs' | 'releaseMs'> = {
  direction: 'above',
  kneeDb: 0,
  growthDb: 0,
  rangeDb: 100,
  onset: 0,
  loop: 1,
  autoRelease: false,
  memory: null,
  detector: 'peak',
  sideChain: [],
  link: 1,
  first: true,
  second: true,
  dry: 0,
  wet: 1,
  colour: 0,
};

/**
 * Slope of a ratio: dB of reduction for each dB above the threshold.
 * @example
 * slopeOf(4) // 0.75
 */
export function slopeOf(ratio: number): number {
  return 1 - 1 / ratio;
}

/**
 * Reduction in dB that a design wants at a steady level in dBFS: slope · (level − threshold) above the threshold, with
 * a quadratic knee around it (D. Giannoulis, M. Massberg, J. Reiss, JAES 2012). What the kernel runs, and pictures
 * draw.
 * @example
 * staticReduction({ ...PLAIN, thresholdDbfs: -20, slope: slopeOf(4), attackMs: 1, releaseMs: 1 }, -12) // 6
 */
export function staticReduction(
  { direction, thresholdDbfs, slope, kneeDb, growthDb, rangeDb }: DynamicsDesign,
  levelDbfs: number,
): number {
  const beyond = (direction === 'above' ? 1 : -1) * (levelDbfs - thresholdDbfs);
  if (growthDb > 0) {
    const above = Math.max(0, beyond);
    return Math.min(rangeDb, (slope * above * above) / (above + growthDb));
  }
  const knee = Math.max(kneeDb, HARD_KNEE);
  const into = Math.min(knee, Math.max(0, beyond + knee / 2));
  return Math.min(rangeDb, slope * ((into * into) / (2 * knee) + Math.max(0, beyond - knee / 2)));
}

/** One gain that follows the level of a pair of signals. */
export class Dynamics {
  private readonly block: number;

  constructor(private readonly context: Pick<StageContext, 'kernels' | 'sampleRate'>) {
    this.block = context.kernels.allocate(layout.DYN_BYTES);
  }

  /** Continues from `before`, if given. */
  set(design: DynamicsDesign, before?: Dynamics): void {
    const { kernels, sampleRate } = this.context;
    const { f64, u32 } = kernels;
    const { block } = this;
    const write = (field: number, value: number) => (f64[(block + field) >> 3] = value);
    const share = (ms: number, frames: number) => 1 - arithmetic().exp((-1000 * frames) / (ms * sampleRate));
    const perFrame = (ms: number) => share(ms, 1);
    const perLook = (ms: number) => share(ms, layout.DYN_LOOK_FRAMES);
    const above = design.direction === 'above';
    write(layout.DYN_DIRECTION, above ? 1 : -1);
    write(layout.DYN_THRESHOLD, design.thresholdDbfs);
    write(layout.DYN_SLOPE, design.slope);
    write(layout.DYN_KNEE, Math.max(design.kneeDb, HARD_KNEE));
    write(layout.DYN_GROWTH, design.growthDb);
    write(layout.DYN_RANGE, design.rangeDb);
    write(layout.DYN_LINK, design.link);
    const mean = design.detector === 'rms';
    write(layout.DYN_OFFSET, mean ? powerDecibels(2) : 0);
    write(layout.DYN_ENERGY_SHARE, mean ? perFrame(1000 * MEAN_SECONDS) : 1);
    write(layout.DYN_CREST_SHARE, design.autoRelease ? perFrame(1000 * CREST_SECONDS) : 0);
    write(layout.DYN_CREST_FRAMES, (design.releaseMs * sampleRate) / 1000);
    write(layout.DYN_RELEASE, perLook(design.releaseMs));
    write(layout.DYN_RELEASE_LOOP, perLook(design.releaseMs / design.loop));
    this.writeAttack(design.attackMs, design.onset, perLook, write);
    write(layout.DYN_MEMORY_RISE, design.memory ? perLook(design.memory.riseMs) : 0);
    write(layout.DYN_MEMORY_FALL, design.memory ? perLook(design.memory.fallMs) : 0);
    write(layout.DYN_HELD, design.memory ? 0.5 : 0);
    // What an expander follows is below zero.
    write(layout.DYN_FLOOR, above ? 0 : -1e6);
    write(layout.DYN_DRY, design.dry);
    write(layout.DYN_WET, design.wet);
    write(layout.DYN_COLOUR, design.colour);
    for (const field of [layout.DYN_HEARD, layout.DYN_WORKED]) {
      write(field, design.first ? 1 : 0);
      write(field + 8, design.second ? 1 : 0);
    }
    u32[(block + layout.DYN_SECTIONS) >> 2] = design.sideChain.length;
    for (let i = 0; i < layout.DYN_SIDE_CHAIN_SECTIONS; i++) {
      const offset = layout.DYN_SIDE_CHAIN + i * layout.SECTION_BYTES;
      if (i < design.sideChain.length) writeSection(f64, block + offset, design.sideChain[i], design.sideChain[i]);
      if (before) copySectionState(f64, before.block + offset, block + offset);
      else clearSection(f64, block + offset);
    }
    const states = (block + layout.DYN_STATES) >> 3;
    const count = (layout.DYN_SECTIONS - layout.DYN_STATES) >> 3;
    const from = before ? (before.block + layout.DYN_STATES) >> 3 : 0;
    if (before) f64.copyWithin(states, from, from + count);
    else {
      f64.fill(0, states, states + count);
      write(layout.DYN_GAIN, 1);
      write(layout.DYN_GAIN + 8, 1);
    }
    write(layout.DYN_LOWEST, before ? f64[(before.block + layout.DYN_LOWEST) >> 3] : 0);
  }

  /** Whatever its shape, an onset has done 63 % of its way at the attack time. */
  private writeAttack(
    attackMs: number,
    onset: number,
    perLook: (ms: number) => number,
    write: (field: number, value: number) => void,
  ): void {
    const atOnce = Math.max(0, onset) * MOST_AT_ONCE;
    const [lead, attack] = onset < 0 ? twoPoles(-onset) : [0, 1 / (1 + arithmetic().log(1 - atOnce))];
    write(layout.DYN_LEAD, lead > 0 ? perLook(attackMs * lead) : 1);
    write(layout.DYN_ATTACK, perLook(attackMs * attack));
    write(layout.DYN_ONSET, atOnce);
  }

  /** Works on one quantum of pairs in place, by what is detected, which may be the same. */
  process(detected: number, pairs: number): void {
    this.context.kernels.run.dynamics(this.block, detected, pairs);
  }

  /** Largest reduction in dB since the last call. */
  takeReduction(): number {
    const { f64 } = this.context.kernels;
    const at = (this.block + layout.DYN_LOWEST) >> 3;
    const reduction = Math.max(0, -f64[at]);
    f64[at] = 0;
    return reduction;
  }
}

/**
 * Times of two poles as shares of the attack: the first is `ratio` as slow as the second, and the step response of
 * both, 1 − (b·e^(−1/b) − a·e^(−1/a)) / (b − a), has reached 1 − 1/e at the attack time.
 */
function twoPoles(ratio: number): [lead: number, attack: number] {
  const { exp } = arithmetic();
  if (ratio > 0.999) return [1 / TWO_POLES, 1 / TWO_POLES];
  const left = (b: number) => (b * exp(-1 / b) - ratio * b * exp(-1 / (ratio * b))) / (b - ratio * b);
  let low = 1 / TWO_POLES;
  let high = 1;
  for (let i = 0; i < 50; i++) {
    const middle = (low + high) / 2;
    if (left(middle) > exp(-1)) high = middle;
    else low = middle;
  }
  return [ratio * low, low];
}
