import { QUANTUM } from '../../core/kernels/layout';
import { LaneProcessor, type RunningLane } from '../../core/lane/processor';
import type { EdgeGain } from '../../core/sequence/edges';
import type { ImpulseResponse } from '../../core/stages/definition';

/** Frames that are used at a time. */
export const BLOCK = 4096;

export interface ThroughStages {
  /** Memory of the joints' loudness meters in hops of 10 ms; left out: no meters. */
  meterHops?: number;
  /** Called after every block. */
  onBlock?: (lane: LaneProcessor) => void;
  /** Edges of the track, applied to the input. */
  edges?: EdgeGain;
  /** Frame of the track that the input begins with. */
  startFrame?: number;
  /** Frames that are given after the end of the input: what rings on. */
  tailFrames?: number;
}

/** Runs interleaved stereo through stages; the output has as many frames as the input, in place in time, and those of the tail. */
export async function* throughStages(
  input: AsyncIterable<Float64Array>,
  running: RunningLane,
  sampleRate: number,
  impulses?: ReadonlyMap<string, ImpulseResponse>,
  { meterHops = 0, onBlock, edges, startFrame, tailFrames = 0 }: ThroughStages = {},
): AsyncGenerator<Float64Array> {
  const options = { sampleRate, maxFrames: BLOCK, meterHops, impulses, edges, startFrame };
  const lane = new LaneProcessor(running, options);
  let held = 0;
  let drop = lane.latency;
  let taken = 0;
  let given = 0;
  const flush = (frames: number): Float64Array => {
    const padded = Math.ceil(frames / QUANTUM) * QUANTUM;
    lane.left.fill(0, frames, padded);
    lane.right.fill(0, frames, padded);
    lane.process(padded);
    onBlock?.(lane);
    const first = Math.min(drop, padded);
    drop -= first;
    const count = Math.min(padded - first, taken - given);
    const block = new Float64Array(count * 2);
    for (let i = 0; i < count; i++) {
      block[i * 2] = lane.left[first + i];
      block[i * 2 + 1] = lane.right[first + i];
    }
    given += count;
    held = 0;
    return block;
  };
  for await (const chunk of input) {
    for (let i = 0; i < chunk.length; i += 2) {
      lane.left[held] = chunk[i];
      lane.right[held] = chunk[i + 1];
      taken++;
      if (++held === BLOCK) yield flush(BLOCK);
    }
  }
  taken += tailFrames;
  while (given < taken) {
    lane.left.fill(0, held);
    lane.right.fill(0, held);
    yield flush(BLOCK);
  }
}
