import type { Candidate } from '../../../contracts/candidate';
import type { ReferenceReport } from '../../../contracts/reference';
import type { Span } from '../../../engine/measure/measurement';
import { SAME_PLACE, type SourcePlace } from '../../../engine/sources/source-place';

/** The track that a reference is compared with: its length, where one is in it, and its loudest passage, in frames. */
export interface ComparedTrack {
  frames: number;
  /** Hz */
  sampleRate: number;
  here: number;
  loudest: Span | null;
}

/**
 * Where a reference stands for each frame of the track, all in frames at the track's rate. By share of the length it is
 * right at the place where one is, and goes on from there at its own speed.
 */
export function referencePlace(
  { place, loop: own }: Extract<Candidate, { kind: 'reference' }>,
  report: ReferenceReport,
  { frames, sampleRate, here, loudest }: ComparedTrack,
): SourcePlace {
  const ratio = sampleRate / report.sampleRate;
  const length = Math.round(report.frames * ratio);
  const at = (seconds: number) => Math.min(length, Math.round(seconds * sampleRate));
  const loop =
    own && at(own.endSeconds) > at(own.startSeconds) ? { start: at(own.startSeconds), end: at(own.endSeconds) } : null;
  if (place === 'share') return { offset: Math.round((here / frames) * report.frames * ratio) - here, loop };
  if (place === 'loudest' && loudest) return { offset: Math.round(report.loudest.start * ratio) - loudest.start, loop };
  return loop ? { offset: 0, loop } : SAME_PLACE;
}
