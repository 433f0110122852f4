import { z } from 'zod';
import { arithmetic } from '../signal/arithmetic';

/** A track lasts at least this long, in seconds. */
export const SHORTEST_SECONDS = 0.1;
const LONGEST_SECONDS = 86_400;
export const LONGEST_FADE_SECONDS = 60;
export const LONGEST_SILENCE_SECONDS = 30;

export const FADE_SHAPES = ['linear', 'equalPower', 'sCurve', 'exponential'] as const;
export type FadeShape = (typeof FADE_SHAPES)[number];

const fadeSchema = (shape: FadeShape) =>
  z.strictObject({
    seconds: z.number().min(0).max(LONGEST_FADE_SECONDS).default(0),
    shape: z.enum(FADE_SHAPES).default(shape),
  });
/** How a track comes in or goes out; 0 seconds: at once. */
export type Fade = z.infer<ReturnType<typeof fadeSchema>>;

const silence = z.number().min(0).max(LONGEST_SILENCE_SECONDS).default(0);

/** Where a track starts and ends in its mix, and how. Seconds of the mix, which a corrected mix shares. */
export const edgesSchema = z
  .strictObject({
    startSeconds: z.number().min(0).max(LONGEST_SECONDS).default(0),
    /** Null: where the mix ends. */
    endSeconds: z.number().min(0).max(LONGEST_SECONDS).nullable().default(null),
    fadeIn: fadeSchema('equalPower').prefault({}),
    fadeOut: fadeSchema('sCurve').prefault({}),
    /** Added before the start and after the end of the finished file. */
    silenceBeforeSeconds: silence,
    silenceAfterSeconds: silence,
  })
  .refine(
    ({ startSeconds, endSeconds }) => endSeconds === null || endSeconds - startSeconds >= SHORTEST_SECONDS,
    `A track ends at least ${SHORTEST_SECONDS} s after it starts.`,
  );
export type Edges = z.infer<typeof edgesSchema>;

/** The whole mix, without fades. */
export const WHOLE_MIX: Edges = edgesSchema.parse({});

/** Where a track lies in a mix, in frames; the end is the first frame after it. */
export interface TrackSpan {
  start: number;
  end: number;
}

/**
 * The span of some edges in a mix of so many frames. It can be empty: a shorter mix may end before the start.
 *
 * @example
 *   spanOf(edgesSchema.parse({ startSeconds: 0.5 }), 48000, 96000).start // 24000
 */
export function spanOf({ startSeconds, endSeconds }: Edges, sampleRate: number, frames: number): TrackSpan {
  const start = Math.min(frames, Math.round(startSeconds * sampleRate));
  const end = endSeconds === null ? frames : Math.min(frames, Math.round(endSeconds * sampleRate));
  return { start, end: Math.max(start, end) };
}

/** An exponential fade moves evenly over 60 dB (common practice, no source): as a ratio of amplitudes. */
const EXPONENTIAL_RATIO = 1000;

/**
 * Gain of a fade at a share of its length, 0 to 1: 0 at 0, 1 at 1. A fade-out runs backwards.
 *
 * @example
 *   fadeGain('linear', 0.25) // 0.25
 */
export function fadeGain(shape: FadeShape, share: number): number {
  if (share >= 1) return 1;
  const { sin, pow } = arithmetic();
  const quarter = shape === 'linear' || shape === 'exponential' ? 0 : sin((Math.PI / 2) * share);
  if (shape === 'equalPower') return quarter;
  if (shape === 'sCurve') return quarter * quarter;
  if (shape === 'exponential') return (pow(EXPONENTIAL_RATIO, share) - 1) / (EXPONENTIAL_RATIO - 1);
  return share;
}

/** The edges of a track as a gain over its mix: 0 outside, the fades, 1 between them. */
export class EdgeGain {
  readonly start: number;
  readonly end: number;
  private readonly fadeInEnd: number;
  private readonly fadeOutStart: number;

  /** `frames` of the mix at a sample rate in Hz. */
  constructor(
    readonly edges: Edges,
    sampleRate: number,
    frames: number,
  ) {
    const { start, end } = spanOf(edges, sampleRate, frames);
    this.start = start;
    this.end = end;
    this.fadeInEnd = start + Math.round(edges.fadeIn.seconds * sampleRate);
    this.fadeOutStart = end - Math.round(edges.fadeOut.seconds * sampleRate);
  }

  /** The gain at a frame of the mix. */
  at(frame: number): number {
    const { start, end, fadeInEnd, fadeOutStart, edges } = this;
    if (frame < start || frame >= end) return 0;
    let gain = 1;
    if (frame < fadeInEnd) gain = fadeGain(edges.fadeIn.shape, (frame - start) / (fadeInEnd - start));
    if (frame > fadeOutStart) gain *= fadeGain(edges.fadeOut.shape, (end - frame) / (end - fadeOutStart));
    return gain;
  }

  /** Applies it in place to some frames of the mix, of which the first is `first`. */
  apply(first: number, left: Float64Array, right: Float64Array, frames: number): void {
    const from = Math.max(this.start, this.fadeInEnd);
    if (first >= from && first + frames <= Math.min(this.end, this.fadeOutStart)) return;
    for (let i = 0; i < frames; i++) {
      const gain = this.at(first + i);
      if (gain === 1) continue;
      // What is cut off is silent, even where the mix has NaN or infinity.
      left[i] = gain === 0 ? 0 : left[i] * gain;
      right[i] = gain === 0 ? 0 : right[i] * gain;
    }
  }
}

/** The gain of a lane's edges; undefined for the whole mix. */
export function edgeGain(
  edges: Edges | undefined,
  { sampleRate, frames }: { sampleRate: number; frames: number },
): EdgeGain | undefined {
  return edges && new EdgeGain(edges, sampleRate, frames);
}

/** How long a finished file is expected to be, in frames of the mix, without what rings on after the end. */
export function framesWithin(edges: Edges, sampleRate: number, frames: number): number {
  const { start, end } = spanOf(edges, sampleRate, frames);
  const silenceFrames = (seconds: number) => Math.round(seconds * sampleRate);
  return silenceFrames(edges.silenceBeforeSeconds) + end - start + silenceFrames(edges.silenceAfterSeconds);
}

/** Frame of the mix that a finished file begins with; negative where it begins before the mix. */
export function firstFrame(edges: Edges, sampleRate: number): number {
  return Math.round(edges.startSeconds * sampleRate) - Math.round(edges.silenceBeforeSeconds * sampleRate);
}

/**
 * What of a mix counts for the loudness of its master: as far as the finished file has it, so that both have the same gating
 * blocks.
 */
export function countedSpan(edges: Edges | undefined, sampleRate: number, frames: number): TrackSpan {
  if (!edges) return { start: 0, end: frames };
  const first = firstFrame(edges, sampleRate);
  const end = Math.min(frames, first + framesWithin(edges, sampleRate, frames));
  return { start: Math.min(frames, Math.max(0, first)), end: Math.max(0, end) };
}

/** How a finished file lies in the time of its mix: by how many of its own frames it is late there, and how many reach to its end. */
export function placeInMix(
  edges: Edges | undefined,
  { frames, sampleRate }: { frames: number; sampleRate: number },
): { lateFrames: number; frames: number } {
  const first = edges ? firstFrame(edges, sampleRate) : 0;
  return { lateFrames: 0 - first, frames: first + frames };
}
