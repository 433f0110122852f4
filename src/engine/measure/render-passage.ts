import { kernelsFor, LaneProcessor } from '../../core/lane/processor';
import type { Kernels } from '../../core/kernels/host';
import type { Lane } from '../../core/lane/schema';
import { edgeGain } from '../../core/sequence/edges';
import { JointMeter } from '../../core/measure/joint-meter';
import { HOPS_PER_SECOND } from '../../core/measure/loudness-statistics';
import type { ImpulseResponse } from '../../core/stages/definition';
import { amplitude } from '../../core/signal/decibels';
import type { StereoBuffer } from '../sources/places';
import { copyBlock } from './copy-block';
import { TRACE_FRAMES, type Audio, type Span } from './measurement';

/** Seconds before a passage that are run with it, so that stages have settled. */
const LEAD_SECONDS = 1;
/** LUFS at which passages are compared: low enough that none has to be limited for it. */
export const COMPARED_LUFS = -20;

/** A passage of a mix through a lane, brought to {@link COMPARED_LUFS}; silence stays silence. `kernels`, where given, are cleared for it. */
export function renderPassage(
  audio: Audio,
  { start, end }: Span,
  { stages, crossovers, edges }: Pick<Lane, 'stages' | 'crossovers' | 'edges'>,
  impulses: ReadonlyMap<string, ImpulseResponse> = new Map(),
  kernels: Kernels | null = null,
): StereoBuffer {
  const { sampleRate } = audio;
  const from = Math.max(0, start - Math.round(LEAD_SECONDS * sampleRate));
  const lane = { stages: stages.filter(({ on }) => on), crossovers };
  const options = {
    ...{ sampleRate, maxFrames: TRACE_FRAMES, meterHops: 0, startFrame: from, impulses },
    edges: edgeGain(edges, { sampleRate, frames: audio.left.length }),
  };
  const processor = new LaneProcessor(lane, options, kernelsFor(lane, options, kernels));
  const frames = end - start;
  const before = start - from + processor.latency;
  const hops = Math.ceil((frames / sampleRate) * HOPS_PER_SECOND) + 2;
  const meter = new JointMeter(processor.kernels, sampleRate, TRACE_FRAMES, hops, before, frames);
  const buffer = { left: new Float32Array(frames), right: new Float32Array(frames) };
  for (let position = 0; position < before + frames; position += TRACE_FRAMES) {
    copyBlock(audio.left.subarray(from), position, processor.left);
    copyBlock(audio.right.subarray(from), position, processor.right);
    processor.process(TRACE_FRAMES);
    meter.add(processor.leftAddress, processor.rightAddress, TRACE_FRAMES);
    const skipped = Math.max(0, Math.min(TRACE_FRAMES, before - position));
    const room = Math.max(0, Math.min(TRACE_FRAMES, before + frames - position) - skipped);
    if (room === 0) continue;
    buffer.left.set(processor.left.subarray(skipped, skipped + room), position + skipped - before);
    buffer.right.set(processor.right.subarray(skipped, skipped + room), position + skipped - before);
  }
  const { integrated } = meter.loudness.report();
  const gain = Number.isFinite(integrated) ? amplitude(COMPARED_LUFS - integrated) : 1;
  for (const channel of [buffer.left, buffer.right]) for (let i = 0; i < frames; i++) channel[i] *= gain;
  return buffer;
}
