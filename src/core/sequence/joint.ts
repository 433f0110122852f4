import { z } from 'zod';
import { FADE_SHAPES } from './edges';

/** Frames of a disc in a second (IEC 60908): the smallest step of a gap. */
export const DISC_FRAMES = 75;
const LONGEST_GAP = 60 * DISC_FRAMES;
const LONGEST_CROSSFADE = 30 * DISC_FRAMES;

/**
 * Frames at a sample rate in Hz of so many frames of a disc.
 *
 * @example
 * framesOfDisc(75, 48000) // 48000
 */
export function framesOfDisc(discFrames: number, sampleRate: number): number {
  return Math.round((discFrames * sampleRate) / DISC_FRAMES);
}

/** How a track follows the one before it: after a gap, at once, or over its end. Lengths in frames of a disc. */
export const jointSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('gap'), discFrames: z.int().min(0).max(LONGEST_GAP) }),
  z.strictObject({
    kind: z.literal('crossfade'),
    discFrames: z.int().min(1).max(LONGEST_CROSSFADE),
    shape: z.enum(FADE_SHAPES),
  }),
]);
export type Joint = z.infer<typeof jointSchema>;

/** Two seconds, as on most discs (common practice, no source). */
export const USUAL_JOINT: Joint = { kind: 'gap', discFrames: 2 * DISC_FRAMES };

/** A track as a release is put together from it. */
export interface SequencedTrack {
  /** Frames of its file at the rate of the sequence. */
  frames: number;
  /** How it follows the one before it; that of the first track is not used. */
  joint: Joint;
}

/** Where a track lies in a release, in frames at the rate of the sequence. */
export interface PlacedTrack {
  start: number;
  end: number;
  /** Frames by which it begins before the one before it ends. */
  overlap: number;
  /** Disc frames at which the pause before it and the track itself are marked; null without a pause. */
  index0: number | null;
  index1: number;
}

/**
 * Places tracks after each other. After a gap, and over a crossfade, a track starts on a frame of a disc; after a gap of 0 it
 * follows to the sample, and is marked at the disc frame before. A crossfade takes no more than the shorter of both tracks.
 */
export function placeTracks(tracks: readonly SequencedTrack[], sampleRate: number): PlacedTrack[] {
  const at = (discFrame: number) => framesOfDisc(discFrame, sampleRate);
  // A start that was rounded to whole samples lies on its disc frame.
  const above = (frame: number) => Math.max(0, Math.ceil(((frame - 0.5) * DISC_FRAMES) / sampleRate));
  const below = (frame: number) => Math.floor(((frame + 0.5) * DISC_FRAMES) / sampleRate);
  const placed: PlacedTrack[] = [];
  for (const { frames, joint } of tracks) {
    const last = placed.at(-1);
    if (!last) placed.push({ start: 0, end: frames, overlap: 0, index0: null, index1: 0 });
    else if (joint.kind === 'crossfade') {
      const longest = Math.min(frames, last.end - last.start - last.overlap);
      const asked = at(above(last.end - Math.min(longest, at(joint.discFrames))));
      const start = Math.min(last.end, asked);
      placed.push({ start, end: start + frames, overlap: last.end - start, index0: null, index1: below(start) });
    } else if (joint.discFrames === 0) {
      const start = last.end;
      placed.push({ start, end: start + frames, overlap: 0, index0: null, index1: below(start) });
    } else {
      const pause = above(last.end);
      const index1 = above(last.end + at(joint.discFrames));
      const start = at(index1);
      placed.push({ start, end: start + frames, overlap: 0, index0: pause < index1 ? pause : null, index1 });
    }
  }
  return placed;
}
