import { Kernels } from '../kernels/host';
import { QUANTUM } from '../kernels/layout';
import { JointMeter } from '../measure/joint-meter';
import { HOPS_PER_SECOND } from '../measure/loudness-statistics';
import type { ImpulseResponse, Use, StageProcessor } from '../stages/definition';
import { definitionOf, traitsOf } from '../stages/registry';
import type { EdgeGain } from '../sequence/edges';
import { sameData } from './same-data';
import type { Lane, Stage } from './schema';

/**
 * Nothing leaves a lane above +40 dBFS: far beyond use, it is a mistake that should not reach a loudspeaker or a file.
 */
const MOST = 100;

export interface LaneOptions {
  /** Hz */
  sampleRate: number;
  /** Largest block in frames, a multiple of the quantum. */
  maxFrames: number;
  /** Memory of the joints' loudness meters in hops of 10 ms; 0 leaves the meters out. */
  meterHops: number;
  /** Left out: for the delivery. */
  use?: Use;
  /** Impulse responses that were uploaded from outside, by name. */
  impulses?: ReadonlyMap<string, ImpulseResponse>;
  /** Frame of the track that the first block starts with; left out: 0. */
  startFrame?: number;
  /** Edges of the track, applied to what enters; left out: the input is used as it is. */
  edges?: EdgeGain;
}

/** The place in the track of a signal that entered the lane some frames ago. */
export interface TrackPosition {
  before(frames: number): number;
}

/** The part of a lane that decides its sound. */
export type RunningLane = Pick<Lane, 'stages' | 'crossovers'>;

const NO_IMPULSES: ReadonlyMap<string, ImpulseResponse> = new Map();

/**
 * Memory for a lane: more than usual where a stage asks for it. `kept` is taken when it is large enough, and must then no
 * longer be used by what had it.
 */
export function kernelsFor(
  { stages }: RunningLane,
  { sampleRate, impulses = NO_IMPULSES }: Pick<LaneOptions, 'sampleRate' | 'impulses'>,
  kept: Kernels | null = null,
): Kernels {
  let bytes = 0;
  for (const stage of stages)
    if (stage.on) bytes += traitsOf<Stage>(stage).memoryBytes?.(stage.settings, { sampleRate, impulses }) ?? 0;
  return kept && kept.extraBytes >= bytes ? kept.cleared() : new Kernels(bytes);
}

/** What the order and the choice of running stages depend on. */
function structure(stages: readonly Stage[]): string {
  return JSON.stringify(stages.map(({ id, kind, on }) => [id, kind, on]));
}

/**
 * Runs the stages of a lane in order and meters every joint between them. Stages that are off are not run. Joint 0 is
 * the input, joint i + 1 the output of stage i.
 */
export class LaneProcessor implements TrackPosition {
  /** Frames by which the output trails the input. */
  readonly latency: number;
  /** Where a block is written before {@link process} and read after it: planar float64. */
  readonly left: Float64Array;
  readonly right: Float64Array;
  /** Addresses of the same. */
  readonly leftAddress: number;
  readonly rightAddress: number;
  readonly joints: JointMeter[] = [];
  private readonly processors: (StageProcessor<unknown> | null)[];
  /** Latency in frames at each joint. */
  private readonly delays: number[] = [0];
  private readonly shape: string;
  private readonly lastRunning: number;
  /** Frame of the track that the next block starts with, where nobody else tells. */
  private frame: number;

  constructor(
    private lane: RunningLane,
    private readonly options: LaneOptions,
    readonly kernels = kernelsFor(lane, options),
  ) {
    const { stages, crossovers } = lane;
    const { sampleRate, maxFrames, meterHops, use = 'delivery', impulses = NO_IMPULSES } = options;
    if (maxFrames % QUANTUM !== 0) throw new RangeError(`Blocks are multiples of ${QUANTUM} frames.`);
    this.leftAddress = kernels.allocate(maxFrames * 8);
    this.rightAddress = kernels.allocate(maxFrames * 8);
    this.left = kernels.view64(this.leftAddress, maxFrames);
    this.right = kernels.view64(this.rightAddress, maxFrames);
    this.shape = structure(stages);
    this.frame = options.startFrame ?? 0;
    const context = { use, kernels, sampleRate, maxFrames, crossovers, impulses };
    this.processors = stages.map((stage) =>
      stage.on ? definitionOf<Stage>(stage).create(context, stage.settings) : null,
    );
    this.lastRunning = this.processors.findLastIndex((processor) => processor !== null);
    for (const processor of this.processors)
      this.delays.push(this.delays[this.delays.length - 1] + (processor?.latency ?? 0));
    this.latency = this.delays[this.delays.length - 1];
    if (meterHops > 0) {
      // Hops begin at the same frames of the track at every joint, and last until they have come out of the lane.
      const hops = meterHops + Math.ceil((this.latency * HOPS_PER_SECOND) / sampleRate) + 1;
      const joint = (delay: number) => new JointMeter(kernels, sampleRate, maxFrames, hops, delay);
      this.joints.push(joint(0));
      this.processors.forEach((processor, i) =>
        this.joints.push(processor ? joint(this.delays[i + 1]) : this.joints[this.joints.length - 1]),
      );
    }
  }

  /**
   * Takes new settings while running; only stages whose settings or crossovers changed are told. False when the lane
   * must be rebuilt (other stages, order or latency).
   */
  update(lane: RunningLane): boolean {
    const { stages, crossovers } = lane;
    if (structure(stages) !== this.shape) return false;
    const split = !sameData(crossovers, this.lane.crossovers);
    for (let i = 0; i < stages.length; i++) {
      const stage = stages[i];
      const changed =
        (split && traitsOf<Stage>(stage).byBands !== undefined) ||
        !sameData(stage.settings, this.lane.stages[i].settings);
      if (changed && this.processors[i]?.update(stage.settings, crossovers) === false) return false;
    }
    this.lane = lane;
    return true;
  }

  /**
   * Runs one block, a multiple of the quantum, in place. `tap` is called at each joint with its index, before the stage
   * that follows. `position` tells where in the track the block is; left out, blocks follow one another.
   */
  process(frames: number, tap?: (joint: number) => void, position: TrackPosition = this): void {
    this.options.edges?.apply(position.before(0), this.left, this.right, frames);
    this.meter(0, frames);
    tap?.(0);
    for (let i = 0; i < this.processors.length; i++) {
      const processor = this.processors[i];
      if (processor) {
        processor.seek?.(position.before(this.delays[i]));
        processor.process(this.leftAddress, this.rightAddress, frames);
        if (i === this.lastRunning) this.kernels.run.bounded(this.leftAddress, this.rightAddress, frames, MOST);
        this.meter(i + 1, frames);
      }
      tap?.(i + 1);
    }
    this.frame += frames;
  }

  /** Where in the track a signal is that left the input some frames before this block. */
  before(frames: number): number {
    return this.frame - frames;
  }

  /** Frames by which the signal at a joint trails the input. */
  latencyAt(joint: number): number {
    return this.delays[joint];
  }

  /** Frames by which a stage is late; 0 where there is none. */
  latencyOf(stage: number): number {
    return this.processors[stage]?.latency ?? 0;
  }

  /** Largest gain reduction in dB of each stage since the last call. */
  takeGainReduction(stage: number): number {
    return this.processors[stage]?.takeGainReduction() ?? 0;
  }

  /**
   * Largest gain reduction in dB of each band before the last {@link takeGainReduction}; empty for a stage without
   * bands.
   */
  bandReductions(stage: number): number[] {
    return this.processors[stage]?.bandReductions?.() ?? [];
  }

  /** Share of the samples that a stage clipped since the last call; null for one that does not clip. */
  takeTouched(stage: number): number | null {
    return this.processors[stage]?.takeTouched?.() ?? null;
  }

  /** dB by which each band of a stage is moved now; empty for a stage without bands that move. */
  movements(stage: number): number[] {
    return this.processors[stage]?.movements?.() ?? [];
  }

  private meter(index: number, frames: number): void {
    if (this.options.meterHops > 0) this.joints[index].add(this.leftAddress, this.rightAddress, frames);
  }
}
