import type { Lane } from '../../core/lane/schema';
import type { ImpulseResponse, Purpose } from '../../core/stages/definition';
import type { EqualizerBand } from '../../core/stages/equalizer/settings';
import type { Sides } from '../../core/measure/peak';
import type { Audio } from '../pass/result';

/**
 * What is heard: what the master is compared with (the untouched mix, or another lane), the master, or only the change
 * from one to the other.
 */
export type Side = 'mix' | 'master' | 'change';

export const MONITORS = ['stereo', 'mono', 'side', 'left', 'right'] as const;
export type Monitor = (typeof MONITORS)[number];

/** A stretch of the programme in frames. */
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
  audio: Audio;
  lane: Lane;
  taps: Taps | null;
  /** Impulse responses that lanes may name from the beginning. */
  responses?: Record<string, ImpulseResponse>;
  /** Left out: for listening. */
  purpose?: Purpose;
  /** Begins to play at once, without a fade: for rendering offline. */
  playing?: boolean;
}

/** What a page tells the worklet. */
export type LiveRequest =
  | { type: 'lane'; lane: Lane }
  /** An impulse response that lanes may name from now on. */
  | { type: 'response'; name: string; response: ImpulseResponse }
  | { type: 'play' }
  | { type: 'pause' }
  | { type: 'seek'; frame: number }
  | { type: 'loop'; loop: Loop | null }
  | { type: 'listen'; side: Side }
  /** The lane that the master is compared with, never of longer latency; null for the untouched mix. */
  | { type: 'against'; lane: Lane | null }
  /** Bands that let only a region of what is heard pass; none for everything. */
  | { type: 'region'; bands: EqualizerBand[] }
  /** Gains in dB that make mix and master equally loud. */
  | { type: 'match'; mixDb: number; masterDb: number }
  | { type: 'monitor'; monitor: Monitor }
  /** Only what the tapped stage takes away is heard: what went in, with a gain in dB, less what came out; null: no more. */
  | { type: 'removed'; gainDb: number | null }
  /** Index of the stage whose input and output are tapped. */
  | { type: 'tap'; stage: number };

/** Levels at a joint since the last readings. */
export interface LiveJoint {
  momentaryLufs: number;
  /** Linear, the higher side. */
  samplePeak: number;
  truePeak: number;
}

/** What the worklet tells about 30 times a second. */
export interface LiveReadings {
  /** Frame of the programme that is heard. */
  frame: number;
  playing: boolean;
  joints: LiveJoint[];
  /** dB, largest since the last readings, for each stage. */
  gainReduction: number[];
  /** dB by which each band of the tapped stage is moved now; empty for a stage without such bands. */
  movements: number[];
  /** dB, largest since the last readings, for each band of the tapped stage; empty for a stage without bands. */
  bandReductions: number[];
  /** Frames by which what is tapped ahead of the stage is ahead of what is tapped behind it. */
  tapLead: number;
  /** Correlation behind the tapped stage, as a whole and by bands from the lowest up; empty unless it is a stereo stage. */
  correlations: number[];
  /** Of what is listened to, before level match and monitor; linear, largest since the last readings. */
  samplePeak: Sides;
  truePeak: Sides;
  momentaryLufs: number;
  shortTermLufs: number;
  /** Of what was played since playback began here. */
  integratedLufs: number;
  /** Integrated loudness of mix and master so far, for a level match before the full pass has one. */
  mixLufs: number;
  masterLufs: number;
}
