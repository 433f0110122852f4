import type { Destination } from '../../core/deliver/destination';
import { firstDraft, type Draft, type DraftRuns, type PassageRun } from '../../core/draft/first-draft/draft';
import { readMix, type MixReading } from '../../core/draft/first-draft/mix-reading';
import type { DraftWishes } from '../../core/draft/first-draft/request';
import type { DraftReference } from '../../core/draft/first-draft/step';
import type { Kernels } from '../../core/kernels/host';
import { kernelsFor, LaneProcessor } from '../../core/lane/processor';
import { EMPTY_LANE, type Stage } from '../../core/lane/schema';
import type { IntakeReport } from '../../core/measure/intake-report';
import { JointMeter } from '../../core/measure/joint-meter';
import { HOPS_PER_SECOND } from '../../core/measure/loudness-statistics';
import type { Edges } from '../../core/sequence/edges';
import { decibels } from '../../core/signal/decibels';
import { copyBlock } from './copy-block';
import { LevelPasses } from './level-passes';
import { TRACE_FRAMES, type Audio } from './measurement';

/** Seconds before the loudest passage that are run with it, so that stages have settled. */
const LEAD_SECONDS = 1;
/** Seconds after it that are kept of a joint: what the latencies of the following stages still need. */
const TAIL_SECONDS = 0.5;
/** Joints that are kept, from the last one up: rules change the last stage only, and what is solved the last two. */
const KEPT_JOINTS = 4;

/** The loudest passage after some stages, to go on from. */
interface PassageJoint {
  key: string;
  left: Float32Array | Float64Array;
  right: Float32Array | Float64Array;
  /** Frames by which it is late. */
  latency: number;
  run: PassageRun;
}

/** Drafts lanes for one mix, as often as wishes change. */
export class Drafting {
  private mix: MixReading | null = null;
  /** Memory of the last run. */
  private kernels: Kernels | null = null;
  /** By the number of stages before it. */
  private readonly joints: (PassageJoint | undefined)[] = [];

  constructor(
    private readonly audio: Audio,
    private readonly report: IntakeReport,
    private readonly turn: () => Promise<void> = () => Promise.resolve(),
  ) {}

  /** What the draft is made from. Throws with a sentence where there is no sound. */
  reading(): MixReading {
    const { left, right, sampleRate } = this.audio;
    this.mix ??= readMix(left, right, sampleRate, this.report);
    if (!this.mix) throw new Error('There is no sound in this mix to draft a lane from.');
    return this.mix;
  }

  /** `edges` of the track, which decide its loudness too. Throws with a sentence where there is no sound. */
  async draft(
    destination: Destination,
    wishes: DraftWishes,
    reference: DraftReference | null = null,
    edges?: Edges,
  ): Promise<Draft> {
    let passes: { moved: number; runs: LevelPasses } | null = null;
    const runs: DraftRuns = {
      passage: async (stages) => (await this.joint(stages)).run,
      whole: (lane, moved) => {
        if (passes?.moved !== moved) passes = { moved, runs: new LevelPasses(this.audio, new Map(), moved, this.turn) };
        return passes.runs.measure({ ...lane, edges });
      },
    };
    return firstDraft(this.reading(), destination, wishes, runs, reference);
  }

  /** The loudest passage after some stages; only the last of them is run where the joint before it is known. */
  private async joint(stages: readonly Stage[]): Promise<PassageJoint> {
    const count = stages.length;
    const key = JSON.stringify(stages.map(({ kind, settings }) => [kind, settings]));
    const known = this.joints[count];
    if (known?.key === key) return known;
    const before = count > 0 ? await this.joint(stages.slice(0, -1)) : null;
    await this.turn();
    const joint = this.run(key, before, stages.at(-1) ?? null);
    this.joints[count] = joint;
    for (let i = 0; i <= count - KEPT_JOINTS; i++) this.joints[i] = undefined;
    return joint;
  }

  private run(key: string, before: PassageJoint | null, stage: Stage | null): PassageJoint {
    const { audio, report } = this;
    const { sampleRate } = audio;
    const { start, end } = report.loudest;
    const from = Math.max(0, start - Math.round(LEAD_SECONDS * sampleRate));
    const to = end + Math.round(TAIL_SECONDS * sampleRate);
    const entering = before ?? {
      left: audio.left.subarray(from, to),
      right: audio.right.subarray(from, to),
      latency: 0,
    };
    const lane = { stages: stage ? [stage] : [], crossovers: EMPTY_LANE.crossovers };
    const startFrame = from - entering.latency;
    this.kernels = kernelsFor(lane, { sampleRate }, this.kernels);
    const options = { sampleRate, maxFrames: TRACE_FRAMES, meterHops: 0, startFrame };
    const processor = new LaneProcessor(lane, options, this.kernels);
    const latency = entering.latency + processor.latency;
    const hops = Math.ceil(((end - start) / sampleRate) * HOPS_PER_SECOND) + 2;
    const meter = new JointMeter(processor.kernels, sampleRate, TRACE_FRAMES, hops, 0, end - start);
    const frames = entering.left.length;
    const after = { left: new Float64Array(frames), right: new Float64Array(frames) };
    let reductionDb = 0;
    for (let position = 0; position < frames; position += TRACE_FRAMES) {
      copyBlock(entering.left, position, processor.left);
      copyBlock(entering.right, position, processor.right);
      processor.process(TRACE_FRAMES);
      const room = Math.min(TRACE_FRAMES, frames - position);
      after.left.set(processor.left.subarray(0, room), position);
      after.right.set(processor.right.subarray(0, room), position);
      const taken = stage ? Math.max(processor.takeGainReduction(0), -Math.min(0, ...processor.movements(0))) : 0;
      if (position < start - from + latency || position >= end - from + latency) continue;
      reductionDb = Math.max(reductionDb, taken);
      meter.add(processor.leftAddress, processor.rightAddress, TRACE_FRAMES);
    }
    const run = {
      integratedLufs: meter.loudness.report().integrated,
      truePeakDbtp: decibels(Math.max(...meter.peak.truePeaks())),
      reductionsDb: [...(before?.run.reductionsDb ?? []), ...(stage ? [reductionDb] : [])],
    };
    return { key, ...after, latency, run };
  }
}
