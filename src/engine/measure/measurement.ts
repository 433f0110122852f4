import type { BalanceBand } from '../../core/measure/balance';
import type { DistortionReading } from '../../core/measure/distortion';
import type { ImageReading } from '../../core/measure/image';
import type { Channels } from '../../core/measure/peak';
import type { TipsReading } from '../../core/measure/tips';
import type { SourceLevel } from '../sources/level-match';
import type { StereoBuffer } from '../sources/places';

/** Loudness and peak at one joint of the lane over the whole track. */
export interface JointReading {
  integratedLufs: number;
  samplePeakDbfs: number;
  truePeakDbtp: number;
}

/** Everything that is measured of the mix or of the master. */
export interface ProgrammeReading extends JointReading {
  maxMomentaryLufs: number;
  maxShortTermLufs: number;
  rangeLu: number;
  /** True peak less integrated loudness, in LU. */
  plrLu: number;
  samplePeaksDbfs: Channels;
  truePeaksDbtp: Channels;
  /** LUFS each 100 ms. */
  momentary: Float32Array;
  shortTerm: Float32Array;
  /** Lowest and highest sample of both channels, alternating, for each {@link PICTURE_FRAMES}. */
  picture: Float32Array;
  /** Times in seconds at which the true peak is over full scale. */
  overs: Float32Array;
}

export const PICTURE_FRAMES = 256;
/** Frames that are run at a time; gain-reduction traces have one value for each. */
export const TRACE_FRAMES = 1024;

/** Average spectra over the whole track before and after a stage, in dBFS for each bin from 0 Hz up. */
export interface StageSpectra {
  before: Float32Array;
  after: Float32Array;
}

/** The stereo image over the whole track before and after a stage. */
export interface StageImages {
  before: ImageReading;
  after: ImageReading;
}

/** Some frames around the place where a stage worked most: its input, in time with its output. */
export interface Excerpt {
  /** Where it starts in the track, in seconds. */
  seconds: number;
  before: Float32Array;
  after: Float32Array;
}

/** What a nonlinear stage did to the sound. */
export interface StageDistortion {
  /** Share of the samples that were clipped, for each block; null for a stage that does not clip. */
  touched: Float32Array | null;
  /** Distortion added in the loudest passage; null where none is known. */
  added: DistortionReading | null;
  excerpt: Excerpt;
  /** The tips at its ceiling; null for a stage without one. */
  tips: TipsReading | null;
}

/** The highest sample of each block before and after a stage, as amplitudes in the track's own time. */
export interface StagePeaks {
  before: Float32Array;
  after: Float32Array;
}

/** What is measured of a whole track through a lane. */
export interface Measurement {
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
  /** For each nonlinear stage what it did to the sound; null for the others. */
  distortions: (StageDistortion | null)[];
  /** For each stereo stage the image before and after it; null for the others. */
  images: (StageImages | null)[];
  /** For each stage whose peaks are drawn those before and after it; null for the others. */
  peaks: (StagePeaks | null)[];
  /**
   * For each stage that works on levels of bands how often each band before it had each level, in whole decibels from
   * −72 dBFS up; null for the others.
   */
  bandLevels: (Float32Array[] | null)[];
  /** For each stage its average spectra; null for one that is off or draws none. */
  spectra: (StageSpectra | null)[];
  /** Balance of the master in the loudest passage, by third-octaves; null when none is known. */
  passageBalance: BalanceBand[] | null;
}

/**
 * A measurement with the rendered master: what is drawn when the track is zoomed in, and what a candidate plays. Its
 * channels are empty when there was no memory to render into.
 */
export interface RenderedMeasurement extends Measurement, StereoBuffer {}

/** A rendered master of which only the level is known. */
export interface RenderedMaster extends StereoBuffer {
  master: SourceLevel;
}

/** A stretch of the track in frames. */
export interface Span {
  start: number;
  end: number;
}

/** What of a trace, one value for each block, lies in a stretch; all of it when there is none. */
export function traceWithin(trace: Float32Array, span: Span | undefined): Float32Array {
  return span ? trace.subarray(Math.floor(span.start / TRACE_FRAMES), Math.ceil(span.end / TRACE_FRAMES)) : trace;
}

export interface Audio {
  /** Planar channels of equal length. */
  left: Float32Array;
  right: Float32Array;
  /** Hz */
  sampleRate: number;
}
