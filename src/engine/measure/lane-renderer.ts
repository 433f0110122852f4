import { LaneProcessor } from '../../core/lane/processor';
import type { Lane } from '../../core/lane/schema';
import { QUANTUM } from '../../core/kernels/layout';
import { countedSpan, edgeGain } from '../../core/sequence/edges';
import { JointMeter } from '../../core/measure/joint-meter';
import { HOPS_PER_SECOND } from '../../core/measure/loudness-statistics';
import type { ImpulseResponse } from '../../core/stages/definition';
import { decibels } from '../../core/signal/decibels';
import type { StereoBuffer } from '../sources/places';
import { copyBlock } from './copy-block';
import { TRACE_FRAMES, type Audio, type RenderedMaster } from './measurement';

/** Blocks between two checks whether it is still wanted. */
const BLOCKS_PER_TURN = 512;

export interface RenderingControl {
  /** Called now and then with the share done; a rejection ends the rendering. */
  turn(share: number): Promise<void>;
  /** Where the master is rendered to. */
  output: StereoBuffer;
}

/** Renders a lane over a whole track, and measures no more of it than the level of the master: all that listening needs. */
export async function renderLane(
  audio: Audio,
  lane: Lane,
  impulses: ReadonlyMap<string, ImpulseResponse>,
  { turn, output }: RenderingControl,
): Promise<RenderedMaster> {
  const { sampleRate } = audio;
  const frames = audio.left.length;
  const running = { stages: lane.stages.filter(({ on }) => on), crossovers: lane.crossovers };
  const edges = edgeGain(lane.edges, { sampleRate, frames });
  const processor = new LaneProcessor(running, { sampleRate, maxFrames: TRACE_FRAMES, meterHops: 0, impulses, edges });
  const { left, right, kernels, latency } = processor;
  const hops = Math.ceil((frames / sampleRate) * HOPS_PER_SECOND) + 1;
  const { start, end } = countedSpan(lane.edges, sampleRate, frames);
  const meter = new JointMeter(kernels, sampleRate, TRACE_FRAMES, hops, latency + start, end - start);
  const total = frames + latency + QUANTUM;
  for (let block = 0, position = 0; position < total; block++, position += TRACE_FRAMES) {
    if (block % BLOCKS_PER_TURN === 0) await turn(position / total);
    copyBlock(audio.left, position, left);
    copyBlock(audio.right, position, right);
    processor.process(TRACE_FRAMES);
    meter.add(processor.leftAddress, processor.rightAddress, TRACE_FRAMES);
    const from = Math.max(0, latency - position);
    const to = Math.min(TRACE_FRAMES, total - QUANTUM - position);
    if (to <= from) continue;
    output.left.set(left.subarray(from, to), position + from - latency);
    output.right.set(right.subarray(from, to), position + from - latency);
  }
  await turn(1);
  const master = {
    integratedLufs: meter.loudness.report().integrated,
    truePeakDbtp: decibels(Math.max(...meter.peak.truePeaks())),
  };
  return { master, left: output.left, right: output.right };
}
