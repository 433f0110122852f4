/**
 * Where a source stands for each frame of the track: `offset` frames later in the source, and always within a loop of its
 * own if it has one, wherever that lies.
 */
export interface SourcePlace {
  offset: number;
  loop: { start: number; end: number } | null;
}

/** At the same frame as the track. */
export const SAME_PLACE: SourcePlace = { offset: 0, loop: null };

/** Frame of the source at a frame of the track; before or after its end there is none, and it is silent. */
export function placeOf(frame: number, { offset, loop }: SourcePlace): number {
  const at = frame + offset;
  if (!loop) return at;
  const length = loop.end - loop.start;
  return loop.start + ((((at - loop.start) % length) + length) % length);
}

/** Gain at a frame of a looped source: it dips to silence at the seam, within `seamFrames` of it. */
export function seamGain(at: number, { loop }: SourcePlace, seamFrames: number): number {
  if (!loop) return 1;
  return Math.min(1, (at - loop.start) / seamFrames, (loop.end - at) / seamFrames);
}
