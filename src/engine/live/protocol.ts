import type { PlaceResponse } from '../../core/elsewhere/response';
import type { Lane } from '../../core/lane/schema';
import type { Channels } from '../../core/measure/peak';
import type { ImpulseResponse, Use } from '../../core/stages/definition';
import type { EqualizerBand } from '../../core/stages/equalizer/settings';
import type { PpmType } from '../../core/measure/ppm';
import type { InstrumentPlace, InstrumentReading, InstrumentRing } from './instruments';
import type { Audio } from '../measure/measurement';
import type { StereoBuffer } from '../sources/places';
import type { SourcePlace } from '../sources/source-place';

export const MONITORS = ['stereo', 'mono', 'side', 'left', 'right', 'swapped', 'inverted'] as const;
/** What of the stereo signal is heard. */
export type Monitor = (typeof MONITORS)[number];

/** A stretch of the track in frames. */
export interface Loop {
  start: number;
  end: number;
}

/** Frames of each tap's ring; positions are taken modulo this. */
export const TAP_FRAMES = 16384;

/** Shared rings with mid and side before and after the open stage, and the count of frames written so far. */
export interface Taps {
  before: Float32Array;
  after: Float32Array;
  afterSide: Float32Array;
  written: Int32Array;
  beforeSide: Float32Array;
}

export function makeTaps(): Taps {
  return {
    before: new Float32Array(new SharedArrayBuffer(TAP_FRAMES * 4)),
    after: new Float32Array(new SharedArrayBuffer(TAP_FRAMES * 4)),
    afterSide: new Float32Array(new SharedArrayBuffer(TAP_FRAMES * 4)),
    beforeSide: new Float32Array(new SharedArrayBuffer(TAP_FRAMES * 4)),
    written: new Int32Array(new SharedArrayBuffer(4)),
  };
}

export interface LiveOptions {
  /** The mix: heard as the source `mix`, and run through the lane. */
  audio: Audio;
  /** The lane being edited: heard as the source `lane`. */
  lane: Lane;
  taps: Taps | null;
  /** Uploaded impulse responses that lanes may name from the beginning. */
  impulses?: Record<string, ImpulseResponse>;
  /** Rings of the instruments, for each place that they can measure at. */
  instruments?: readonly InstrumentRing[];
  /** Left out: for listening. */
  use?: Use;
  /** Plays at once, without a fade: for rendering offline. */
  playing?: boolean;
}

/** What a page tells the worklet. */
export type LiveRequest =
  | { type: 'lane'; lane: Lane }
  /** An uploaded impulse response that lanes may name from now on. */
  | { type: 'impulse'; name: string; impulse: ImpulseResponse }
  | { type: 'play' }
  | { type: 'pause' }
  | { type: 'seek'; frame: number }
  | { type: 'loop'; loop: Loop | null }
  /** A source that plays from a buffer; null takes it away. */
  | { type: 'source'; id: string; buffer: StereoBuffer | null }
  /** Where a source that plays from a buffer stands for each frame of the track; at the same frame unless said. */
  | { type: 'place'; id: string; place: SourcePlace }
  /** The source that is heard; `less` is taken away from it, at matched gain. */
  | { type: 'hear'; source: string; less: string | null }
  /** Gains of sources in dB. */
  | { type: 'gains'; gainsDb: Record<string, number> }
  /** Bands that pass only a region of what is heard, or of what enters the tapped stage; none for everything. */
  | { type: 'region'; bands: EqualizerBand[]; ofInput?: boolean }
  | { type: 'monitor'; monitor: Monitor }
  /** A simulated playback place after everything else; null for none. */
  | { type: 'elsewhere'; response: PlaceResponse | null }
  /** One of the listening bands is heard alone; null for all. */
  | { type: 'band'; index: number | null }
  /** Only what the tapped stage takes away is heard: its input, with a gain in dB, less its output; null: no longer. */
  | { type: 'removed'; gainDb: number | null }
  /** Where instruments measure, one place for each ring, and their kind of quasi-peak meter; none: nowhere. */
  | { type: 'instruments'; places: readonly InstrumentPlace[]; ppm: PpmType }
  /** Index of the stage whose input and output are tapped. */
  | { type: 'tap'; stage: number };

/** What reaches the worklet: requests for the engine, and at last that nothing more is heard. */
export type WorkletRequest = LiveRequest | { type: 'end' };

/** What the worklet tells: readings, and at last that it has ended. */
export type WorkletReply = LiveReadings | 'ended';

/** Levels at a joint since the last readings, of the louder channel. */
export interface LiveJoint {
  momentaryLufs: number;
  samplePeakDbfs: number;
  truePeakDbtp: number;
}

/** Levels of the source that is heard, before its gain and the monitoring; peaks since the last readings. */
export interface HeardLevels {
  samplePeaksDbfs: Channels;
  truePeaksDbtp: Channels;
  momentaryLufs: number;
  shortTermLufs: number;
  /** Of what was played since playback began here; −infinity at a place in the middle of the lane. */
  integratedLufs: number;
}

/** Everything that is measured at a place that instruments were set up at: levels as of what is heard, and the needles. */
export type PlaceReading = HeardLevels & InstrumentReading;

/** What the worklet tells about 30 times a second while it plays, and once after each change while it does not. */
export interface LiveReadings {
  /** Frame of the track that is heard. */
  frame: number;
  playing: boolean;
  joints: LiveJoint[];
  /** dB, largest since the last readings, for each stage. */
  gainReduction: number[];
  /** dB by which each band of the tapped stage is moved now; empty for a stage without bands that move. */
  movements: number[];
  /** dB, largest since the last readings, for each band of the tapped stage; empty for a stage without bands. */
  bandReductions: number[];
  /** Frames by which the tap before the stage leads the tap after it. */
  tapLead: number;
  /** Correlation after the tapped stage, overall and by bands from the lowest up; empty unless its image is measured. */
  correlations: number[];
  /** dBFS, highest since the last readings, of each band before the tapped stage; empty unless it works on them. */
  bandLevels: number[];
  heard: HeardLevels;
  /** What the instruments read, place by place; empty while there are none. */
  instruments: PlaceReading[];
  /** Integrated loudness of mix and lane so far, for a level match until they are measured. */
  played: { mixLufs: number; laneLufs: number };
}
