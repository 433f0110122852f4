import { QUANTUM } from '../../core/kernels/layout';
import { LaneProcessor, type LaneOptions, type TrackPosition } from '../../core/lane/processor';
import type { Lane } from '../../core/lane/schema';
import { SHORT_TERM_HOPS } from '../../core/measure/loudness-statistics';
import { sameData } from '../../core/lane/same-data';
import { edgeGain } from '../../core/sequence/edges';
import type { ImpulseResponse, Use } from '../../core/stages/definition';
import { readAt, type Places, type StereoBuffer } from './places';
import { Ramp } from './ramp';

/** Frames of the track that a new lane hears before it fades in, so that filters and gains have settled. */
const SETTLE_FRAMES = 8192;
const CHANGE_SECONDS = 0.02;

export interface LiveLaneOptions {
  mix: StereoBuffer;
  /** Hz */
  sampleRate: number;
  lane: Lane;
  use: Use;
  /** Uploaded impulse responses by name; more may be added. */
  impulses: ReadonlyMap<string, ImpulseResponse>;
}

/** The lane being edited, run on the mix quantum by quantum. A change that needs another processor fades from one to the other. */
export class LiveLane {
  processor: LaneProcessor;
  /** The processor being left, while it fades out. */
  leaving: LaneProcessor | null = null;
  /** Share of the newer processor while another one fades out. */
  readonly arrived: Ramp;

  constructor(private readonly options: LiveLaneOptions) {
    this.processor = this.make(options.lane);
    this.arrived = new Ramp(1, Math.round(CHANGE_SECONDS * options.sampleRate));
  }

  get lane(): Lane {
    return this.options.lane;
  }

  /** A processor for a lane on the same track; `meterHops` 0 leaves its meters out. */
  make(lane: Pick<Lane, 'stages' | 'crossovers' | 'edges'>, meterHops = SHORT_TERM_HOPS): LaneProcessor {
    const { use, impulses, sampleRate, mix } = this.options;
    const edges = edgeGain(lane.edges, { sampleRate, frames: mix.left.length });
    const options: LaneOptions = { use, impulses, sampleRate, maxFrames: QUANTUM, meterHops, edges };
    return new LaneProcessor(lane, options);
  }

  /** Takes another lane; true when it runs in a new processor, which has heard what is before `frame` of the track. */
  take(lane: Lane, frame: number): boolean {
    const moved = !sameData(lane.edges, this.options.lane.edges);
    this.options.lane = lane;
    if (!moved && this.processor.update(lane)) return false;
    this.leaving = this.processor;
    this.restart(frame);
    this.arrived.reset(0);
    this.arrived.moveTo(1);
    return true;
  }

  /** Starts over with a processor that has heard what is before a frame of the track. */
  restart(frame: number): void {
    this.processor = this.make(this.lane);
    this.settle(frame);
  }

  /** Ends a fade at once. */
  endChange(): void {
    this.leaving = null;
  }

  /** Lets the processor hear what is before a frame: enough to settle and to fill its latency. */
  private settle(frame: number): void {
    const { processor } = this;
    const { mix } = this.options;
    const places: Places = { frames: new Int32Array(QUANTUM), gains: new Float32Array(QUANTUM).fill(1) };
    let start = frame - Math.ceil((SETTLE_FRAMES + 2 * processor.latency) / QUANTUM) * QUANTUM;
    const position: TrackPosition = { before: (frames) => start - frames };
    for (; start < frame; start += QUANTUM) {
      for (let i = 0; i < QUANTUM; i++) places.frames[i] = start + i;
      readAt(mix, places, processor.left, processor.right);
      processor.process(QUANTUM, undefined, position);
    }
    for (const { peak } of processor.joints) peak.clear();
  }
}
