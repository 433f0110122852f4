import type { BendReading } from './bend-watch';
import type { ImageReading } from '../../core/measure/image';
import type { Sides } from '../../core/measure/peak';

/** Loudness and peak at one joint of the lane over the whole programme. */
export interface JointReading {
  integratedLufs: number;
  samplePeakDbfs: number;
  truePeakDbtp: number;
}

/** Everything a full pass says of the mix or of the master. */
export interface ProgrammeReading extends JointReading {
  maxMomentaryLufs: number;
  maxShortTermLufs: number;
  rangeLu: number;
  /** True peak less integrated loudness, in LU. */
  plrLu: number;
  samplePeak: Sides;
  truePeak: Sides;
  /** LUFS each 100 ms. */
  momentary: Float32Array;
  shortTerm: Float32Array;
  /** Lowest and highest sample of both sides, alternating, for each {@link PICTURE_FRAMES}. */
  picture: Float32Array;
  /** Times in seconds at which the true peak is over full scale. */
  overs: Float32Array;
}

export const PICTURE_FRAMES = 256;
/** Frames a full pass runs at a time; gain-reduction traces have one value for each. */
export const PASS_FRAMES = 1024;

/** Average spectra over the whole programme before and behind a stage, in dBFS for each bin from 0 Hz up. */
export interface StageSpectra {
  before: Float32Array;
  after: Float32Array;
}

/** The stereo image over the whole programme before and behind a stage. */
export interface StageImages {
  before: ImageReading;
  after: ImageReading;
}

export interface PassResult {
  /** One more than the lane has stages: joint 0 is the mix. */
  joints: JointReading[];
  mix: ProgrammeReading;
  master: ProgrammeReading;
  /** For each stage its largest gain reduction in dB per block, or null for one that reduced nothing or is off. */
  gainReduction: (Float32Array | null)[];
  /** For each stage with bands the gain reduction of each band per block; null for the others, and where none reduced. */
  bandReduction: (Float32Array[] | null)[];
  /** Frames by which the signal at each joint trails the mix. */
  latencies: number[];
  /** For each stage that bends the wave what it did to it; null for the others. */
  bends: (BendReading | null)[];
  /** For each stereo stage the image before and behind it; null for the others. */
  images: (StageImages | null)[];
  /** For each stage its average spectra; null for one that is off or draws none. */
  spectra: (StageSpectra | null)[];
  /** The rendered master, planar; what is drawn when the programme is zoomed in. */
  left: Float32Array;
  right: Float32Array;
}

/** A stretch of the programme in frames. */
export interface Span {
  start: number;
  end: number;
}

/** What of a trace, one value for each block, lies in a stretch; all of it when there is none. */
export function traceWithin(trace: Float32Array, span: Span | undefined): Float32Array {
  return span ? trace.subarray(Math.floor(span.start / PASS_FRAMES), Math.ceil(span.end / PASS_FRAMES)) : trace;
}

export interface Audio {
  /** Planar sides of equal length. */
  left: Float32Array;
  right: Float32Array;
  /** Hz */
  sampleRate: number;
}
