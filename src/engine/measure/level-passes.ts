import type { LevelReading } from '../../core/deliver/meet';
import type { Kernels } from '../../core/kernels/host';
import { QUANTUM } from '../../core/kernels/layout';
import { kernelsFor, LaneProcessor } from '../../core/lane/processor';
import type { Lane, Stage } from '../../core/lane/schema';
import { countedSpan, edgeGain, type EdgeGain } from '../../core/sequence/edges';
import { JointMeter } from '../../core/measure/joint-meter';
import { HOPS_PER_SECOND } from '../../core/measure/loudness-statistics';
import type { ImpulseResponse } from '../../core/stages/definition';
import { decibels } from '../../core/signal/decibels';
import { copyBlock } from './copy-block';
import { TRACE_FRAMES, type Audio } from './measurement';

/** Blocks between two checks whether it is still wanted. */
const BLOCKS_PER_TURN = 512;
/** Frames after the end of the track that are kept of what enters the moved stages: what rings on into them. */
const TAIL_FRAMES = 65536;

/** The signal that enters the stages which move, with its latency in frames. */
interface Entrance {
  left: Float32Array | Float64Array;
  right: Float32Array | Float64Array;
  latency: number;
}

/**
 * Loudness and peaks of a master, pass after pass, while the end of its lane moves: what stands before the first moved stage is
 * run once. A pass gives what a measurement of the whole lane gives, to the bit.
 */
export class LevelPasses {
  private entrance: Entrance | null = null;
  /** Memory of the last pass. */
  private kernels: Kernels | null = null;

  /** `moved` is the index of the first stage that moves, among those that are on. */
  constructor(
    private readonly audio: Audio,
    private readonly impulses: ReadonlyMap<string, ImpulseResponse>,
    private readonly moved: number,
    private readonly turn: () => Promise<void> = () => Promise.resolve(),
  ) {}

  /** One pass. The stages before the first moved one must be those of the first pass. */
  async measure({ stages, crossovers, edges }: Lane): Promise<LevelReading> {
    const on = stages.filter((stage) => stage.on);
    const { audio } = this;
    const { sampleRate } = audio;
    const frames = audio.left.length;
    const gain = edgeGain(edges, { sampleRate, frames });
    this.entrance ??= await this.enter(on.slice(0, this.moved), crossovers, gain);
    const { entrance } = this;
    const processor = this.processor(
      on.slice(this.moved),
      crossovers,
      -entrance.latency,
      this.moved === 0 ? gain : undefined,
    );
    const latency = entrance.latency + processor.latency;
    const hops = Math.ceil((frames / sampleRate) * HOPS_PER_SECOND) + 1;
    const { start, end } = countedSpan(edges, sampleRate, frames);
    const meter = new JointMeter(processor.kernels, sampleRate, TRACE_FRAMES, hops, latency + start, end - start);
    await this.run(processor, entrance, frames + latency + QUANTUM, () =>
      meter.add(processor.leftAddress, processor.rightAddress, TRACE_FRAMES),
    );
    const { integrated, maxMomentary, maxShortTerm } = meter.loudness.report();
    return {
      integratedLufs: integrated,
      maxMomentaryLufs: maxMomentary,
      maxShortTermLufs: maxShortTerm,
      truePeakDbtp: decibels(Math.max(...meter.peak.truePeaks())),
    };
  }

  private processor(
    stages: Stage[],
    crossovers: Lane['crossovers'],
    startFrame: number,
    edges: EdgeGain | undefined,
  ): LaneProcessor {
    const { sampleRate } = this.audio;
    const options = { sampleRate, maxFrames: TRACE_FRAMES, meterHops: 0, impulses: this.impulses, startFrame, edges };
    const lane = { stages, crossovers };
    this.kernels = kernelsFor(lane, options, this.kernels);
    return new LaneProcessor(lane, options, this.kernels);
  }

  /** Runs what stands before the moved stages, and keeps what comes out of it. */
  private async enter(stages: Stage[], crossovers: Lane['crossovers'], edges: EdgeGain | undefined): Promise<Entrance> {
    const { audio } = this;
    if (stages.length === 0) return { left: audio.left, right: audio.right, latency: 0 };
    const processor = this.processor(stages, crossovers, 0, edges);
    const frames = audio.left.length + processor.latency + TAIL_FRAMES;
    const kept = { left: new Float64Array(frames), right: new Float64Array(frames), latency: processor.latency };
    await this.run(processor, { ...audio, latency: 0 }, frames, (position) => {
      const room = Math.min(TRACE_FRAMES, frames - position);
      kept.left.set(processor.left.subarray(0, room), position);
      kept.right.set(processor.right.subarray(0, room), position);
    });
    return kept;
  }

  private async run(
    processor: LaneProcessor,
    { left, right }: Entrance,
    total: number,
    take: (position: number) => void,
  ): Promise<void> {
    for (let block = 0, position = 0; position < total; block++, position += TRACE_FRAMES) {
      if (block % BLOCKS_PER_TURN === 0) await this.turn();
      copyBlock(left, position, processor.left);
      copyBlock(right, position, processor.right);
      processor.process(TRACE_FRAMES);
      take(position);
    }
  }
}
