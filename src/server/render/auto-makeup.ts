import { hasAutoMakeup, withAutoMakeup } from '../../core/lane/auto-makeup';
import type { LaneProcessor } from '../../core/lane/processor';
import type { Lane } from '../../core/lane/schema';
import type { JointMeter } from '../../core/measure/joint-meter';
import { edgeGain } from '../../core/sequence/edges';
import { HOPS_PER_SECOND } from '../../core/measure/loudness-statistics';
import { decode64 } from '../codecs/decode';
import type { LaneRunOptions } from './lane-run';
import { throughStages } from './through-stages';

/** Measurements for auto makeup, at most: a later stage's depends on the earlier ones'. */
const MOST_MEASUREMENTS = 5;
/** LU by which the makeup of a lane may be off here, where joints are measured a little differently from the page. */
const MAKEUP_LU = 0.08;

/**
 * The lane with the makeup that its stages with auto makeup need on this programme, by measuring it; itself when what is
 * saved fits already.
 */
export async function withMakeup({
  input,
  channels,
  inputRate,
  frames,
  lane,
  impulses,
}: LaneRunOptions): Promise<Lane> {
  let fitted = lane;
  if (!hasAutoMakeup(lane)) return fitted;
  // A file that does not say how long it is must be counted first.
  let length = frames;
  if (length === 0) for await (const chunk of decode64(input, channels)) length += chunk.length / 2;
  const meterHops = Math.ceil((length / inputRate) * HOPS_PER_SECOND) + HOPS_PER_SECOND;
  const edges = edgeGain(lane.edges, { sampleRate: inputRate, frames: length });
  for (let done = 0; done < MOST_MEASUREMENTS; done++) {
    let joints: JointMeter[] = [];
    const onBlock = (processor: LaneProcessor) => (joints = processor.joints);
    for await (const _ of throughStages(decode64(input, channels), fitted, inputRate, impulses, {
      ...{ meterHops, onBlock, edges },
    }));
    const measured = joints.map(({ loudness }) => ({ integratedLufs: loudness.report().integrated }));
    const next = withAutoMakeup(fitted, measured, MAKEUP_LU);
    if (!next) break;
    fitted = next;
  }
  return fitted;
}
