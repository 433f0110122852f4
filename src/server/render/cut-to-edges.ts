import { fadeGain, firstFrame, spanOf, type Edges } from '../../core/sequence/edges';
import { amplitude } from '../../core/signal/decibels';
import { silence } from './raw';

/** What rings on after the end is kept until it stays below this: about a step of 16 bits. */
const TAIL_FLOOR = amplitude(-96);
/** It is kept for at most this long, in seconds. */
export const MOST_TAIL_SECONDS = 10;
/** Its last part fades, so that it ends at zero; longer where it had to be ended. */
const FADE_SECONDS = 0.02;
const ENDED_FADE_SECONDS = 2;
/** What rings on, from the end of the track on: without what is below the floor at its end, faded to zero. */
function endedTail(tail: Float64Array, sampleRate: number, most: number): Float64Array {
  let last = tail.length - 1;
  while (last >= 0 && Math.abs(tail[last]) <= TAIL_FLOOR) last--;
  const frames = Math.floor(last / 2) + 1;
  const seconds = frames < most ? FADE_SECONDS : ENDED_FADE_SECONDS;
  const fade = Math.min(frames, Math.round(seconds * sampleRate));
  const kept = tail.slice(0, 2 * frames);
  for (let i = 0; i < fade; i++) {
    const gain = fadeGain('sCurve', i / fade);
    kept[2 * (frames - 1 - i)] *= gain;
    kept[2 * (frames - 1 - i) + 1] *= gain;
  }
  return kept;
}

/** Where a signal is cut. */
export interface EdgeCut {
  edges: Edges;
  /** Hz */
  sampleRate: number;
  /** Of the mix. */
  frames: number;
  /** Frame of the mix that the signal begins with; left out: 0. */
  startFrame?: number;
  /** Frames of the mix from which and up to which it is wanted; left out: all of it, with what rings on. */
  from?: number;
  to?: number;
}

/**
 * A master in the time of its mix, cut to the edges: silence before, the track, what rings on after its end, silence after.
 * The fades are in the signal already.
 */
export async function* cutToEdges(
  input: AsyncIterable<Float64Array>,
  { edges, sampleRate, frames, startFrame = 0, ...wanted }: EdgeCut,
): AsyncGenerator<Float64Array> {
  const end = wanted.to ?? spanOf(edges, sampleRate, frames).end;
  const first = Math.max(firstFrame(edges, sampleRate), wanted.from ?? -Infinity);
  const most = Math.round(MOST_TAIL_SECONDS * sampleRate);
  const tail = new Float64Array(2 * most);
  let held = 0;
  let at = startFrame;
  yield* silence(Math.max(0, -first));
  for await (const chunk of input) {
    const count = chunk.length / 2;
    const from = Math.max(0, Math.min(count, first - at));
    const to = Math.max(from, Math.min(count, end - at));
    if (to > from) yield chunk.subarray(2 * from, 2 * to);
    const after = Math.max(0, end - at);
    if (after < count) {
      const ringing = chunk.subarray(2 * after, 2 * Math.min(count, after + most - held));
      tail.set(ringing, 2 * held);
      held += ringing.length / 2;
    }
    at += count;
    if (held >= most || (wanted.to !== undefined && at >= end)) break;
  }
  if (wanted.to !== undefined) return;
  const kept = endedTail(tail.subarray(0, 2 * held), sampleRate, most);
  if (kept.length > 0) yield kept;
  yield* silence(Math.round(edges.silenceAfterSeconds * sampleRate));
}
