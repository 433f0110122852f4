import { Ditherer, type Dither } from '../../../core/deliver/dither';
import type { WordLength } from '../../../core/deliver/format';
import type { Loop } from '../../../engine/live/protocol';
import type { StereoBuffer } from '../../../engine/sources/places';
import { sharedChannel } from '../../../engine/measure/worker-runner';

/** As far as a quiet passage is raised at most, in dB, and how far below full scale its highest sample then stays. */
const MOST_DB = 60;
const ROOM_DB = 3;

/** By how many dB a passage can be raised so that one hears what lies at its bottom. */
export function raisedDb({ left, right }: StereoBuffer, { start, end }: Loop): number {
  let peak = 0;
  for (let i = start; i < end; i++) peak = Math.max(peak, Math.abs(left[i]), Math.abs(right[i]));
  return peak === 0 ? 0 : Math.max(0, Math.min(MOST_DB, Math.floor(-20 * Math.log10(peak) - ROOM_DB)));
}

/** A passage at a word length, raised by some dB. */
export function ditheredPassage(
  { left, right }: StereoBuffer,
  { start, end }: Loop,
  { dither, depth, sampleRate, gainDb }: { dither: Dither; depth: WordLength; sampleRate: number; gainDb: number },
): StereoBuffer {
  const ditherer = new Ditherer({ depth, dither, sampleRate });
  const gain = 10 ** (gainDb / 20) / 2 ** (depth - 1);
  const [reducedLeft, reducedRight] = ([left, right] as const).map((channel, index) => {
    const integers = new Int32Array(end - start);
    ditherer.process(index as 0 | 1, Float64Array.from(channel.subarray(start, end)), integers);
    const reduced = sharedChannel(end - start);
    integers.forEach((x, i) => (reduced[i] = Math.max(-1, Math.min(1, x * gain))));
    return reduced;
  });
  return { left: reducedLeft, right: reducedRight };
}
