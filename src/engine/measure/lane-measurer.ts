import { kernelsFor, LaneProcessor } from '../../core/lane/processor';
import { sameData } from '../../core/lane/same-data';
import type { Lane, Stage } from '../../core/lane/schema';
import type { Kernels } from '../../core/kernels/host';
import { QUANTUM } from '../../core/kernels/layout';
import { countedSpan, edgeGain, type Edges } from '../../core/sequence/edges';
import type { ImpulseResponse } from '../../core/stages/definition';
import { traitsOf } from '../../core/stages/registry';
import type { StereoBuffer } from '../sources/places';
import { copyBlock } from './copy-block';
import { JointWatch, type WatchedStage, type Watcher, type WatchPlan } from './joint-watch';
import { renderLane, type RenderingControl } from './lane-renderer';
import {
  TRACE_FRAMES,
  PICTURE_FRAMES,
  type Audio,
  type JointReading,
  type RenderedMaster,
  type RenderedMeasurement,
  type ProgrammeReading,
  type Span,
  type StageDistortion,
  type StageImages,
  type StagePeaks,
  type StageSpectra,
} from './measurement';
import { MeasuringStopped } from './watch-ring';

/**
 * Frames kept after the end of the track and its latency in a kept joint: what rings on into the stages that follow.
 */
const TAIL_FRAMES = 65536;
const KEEP_BYTES = 768 * 1024 * 1024;
/** Blocks between two checks whether the measurement was aborted. */
const BLOCKS_PER_TURN = 512;

export interface MeasuringControl {
  /** Called now and then with the share done; a rejection ends the measurement. */
  turn(share: number): Promise<void>;
  /** Where the master is rendered to; null: nowhere, only measured; left out: a new buffer. */
  output?: StereoBuffer | null;
}

/** What is known of a stage that ran: what was measured around it, its gain-reduction traces, its latency in frames. */
interface StageReading extends WatchedStage {
  gainReduction: Float32Array | null;
  bandReduction: Float32Array[] | null;
  latency: number;
}

/** The signal at a joint, as it entered the next stage. */
interface KeptJoint {
  key: string;
  /** Running stages before it. */
  stages: number;
  latency: number;
  left: Float64Array;
  right: Float64Array;
}

/** What decides the sound of a chain of running stages. */
function chainKey(stages: readonly Stage[], { crossovers, edges }: Lane): string {
  return JSON.stringify([
    edges,
    stages.map((stage) => [stage.kind, stage.settings, ...(traitsOf(stage).byBands ? [crossovers] : [])]),
  ]);
}

/** Gathers drawing peaks of a signal in track time. */
class Picture {
  readonly values: Float32Array;
  private readonly range: number;

  constructor(
    private readonly kernels: Kernels,
    frames: number,
  ) {
    this.values = new Float32Array(Math.ceil(frames / PICTURE_FRAMES) * 2);
    this.range = kernels.allocate(8);
  }

  /** f32 channels at addresses in the kernels' memory, whose first frame is `at` in the track. */
  drawn(left: number, right: number, at: number, frames: number): void {
    const { run, f32 } = this.kernels;
    const { values, range } = this;
    for (let done = 0; done < frames;) {
      const bin = 2 * Math.floor((at + done) / PICTURE_FRAMES);
      const part = Math.min(frames - done, PICTURE_FRAMES - ((at + done) % PICTURE_FRAMES));
      f32[range >> 2] = values[bin];
      f32[(range >> 2) + 1] = values[bin + 1];
      run.widen(left + done * 4, right + done * 4, part, range);
      values[bin] = f32[range >> 2];
      values[bin + 1] = f32[(range >> 2) + 1];
      done += part;
    }
  }
}

export interface MeasurerOptions {
  /** Memory in bytes for the signal that is kept between two measurements. */
  keepBytes?: number;
  /** Loudest passage of the mix. */
  loudest?: Span | null;
}

/**
 * Runs a whole track through lanes. What lies before a changed stage is not computed again: the signal that enters
 * that stage is kept (one joint, while the memory budget allows), and the readings before it are remembered.
 */
export class LaneMeasurer {
  private mix: ProgrammeReading | null = null;
  /** Edges with which the mix was read. */
  private mixEdges: Edges | undefined;
  /** Memory of the last run. */
  private kernels: Kernels | null = null;
  /** Impulse responses that lanes may name. */
  readonly impulses = new Map<string, ImpulseResponse>();
  /** What measures the joints: this thread, unless another is given. */
  watcher: (plan: WatchPlan) => Watcher = (plan) => new JointWatch(plan);
  private readonly readings = new Map<string, StageReading>();
  private kept: KeptJoint | null = null;
  private lastKeys: string[] = [];
  private readonly keepBytes: number;
  private readonly loudest: Span | null;

  constructor(
    private readonly audio: Audio,
    { keepBytes, loudest }: MeasurerOptions = {},
  ) {
    this.keepBytes = keepBytes ?? KEEP_BYTES;
    this.loudest = loudest ?? null;
  }

  async run(lane: Lane, control: MeasuringControl): Promise<RenderedMeasurement> {
    const running = lane.stages.filter(({ on }) => on);
    const keys = running.map((_, i) => chainKey(running.slice(0, i + 1), lane));
    const changed = keys.findIndex((key, i) => key !== this.lastKeys[i]);
    // The first run makes the last stage ready for a change.
    const firstChanged = changed < 0 || this.lastKeys.length === 0 ? keys.length - 1 : changed;
    const start = this.kept && this.usable(this.kept, keys, firstChanged) ? this.kept : null;
    const skipped = start?.stages ?? 0;
    if (!sameData(lane.edges, this.mixEdges)) this.mix = null;
    this.mixEdges = lane.edges;
    const rest = { ...lane, stages: running.slice(skipped) };
    const master = await this.runStages(rest, keys, start, Math.max(skipped, firstChanged), control);
    this.lastKeys = keys;
    for (const key of this.readings.keys()) if (!keys.includes(key)) this.readings.delete(key);

    const mix = this.mix as ProgrammeReading;
    const joints: JointReading[] = [mix];
    const gainReduction: (Float32Array | null)[] = [];
    const bandReduction: (Float32Array[] | null)[] = [];
    const spectra: (StageSpectra | null)[] = [];
    const images: (StageImages | null)[] = [];
    const peaks: (StagePeaks | null)[] = [];
    const bandLevels: (Float32Array[] | null)[] = [];
    const distortions: (StageDistortion | null)[] = [];
    const latencies = [0];
    let run = 0;
    for (const { on } of lane.stages) {
      const reading = on ? this.readings.get(keys[run++]) : undefined;
      joints.push(reading?.joint ?? joints[joints.length - 1]);
      gainReduction.push(reading?.gainReduction ?? null);
      bandReduction.push(reading?.bandReduction ?? null);
      spectra.push(reading?.spectra ?? null);
      images.push(reading?.images ?? null);
      peaks.push(reading?.peaks ?? null);
      bandLevels.push(reading?.bandLevels ?? null);
      distortions.push(reading?.distortion ?? null);
      latencies.push(latencies[latencies.length - 1] + (reading?.latency ?? 0));
    }
    return {
      joints,
      mix,
      gainReduction,
      bandReduction,
      spectra,
      images,
      peaks,
      bandLevels,
      distortions,
      latencies,
      ...master,
    };
  }

  /** Renders a lane and measures no more than its level. */
  render(lane: Lane, control: RenderingControl): Promise<RenderedMaster> {
    return renderLane(this.audio, lane, this.impulses, control);
  }

  private usable(kept: KeptJoint, keys: string[], firstChanged: number): boolean {
    const skipped = keys.slice(0, kept.stages);
    return kept.stages <= firstChanged && kept.key === skipped.at(-1) && skipped.every((key) => this.readings.has(key));
  }

  /** Runs `stages` from a kept joint or from the mix; keeps the signal that enters the stage with index `keepAt`. */
  private async runStages(
    lane: Lane,
    keys: string[],
    start: KeptJoint | null,
    keepAt: number,
    control: MeasuringControl,
  ) {
    const { audio } = this;
    const { stages, crossovers } = lane;
    const frames = audio.left.length;
    const skipped = start?.stages ?? 0;
    const options = {
      sampleRate: audio.sampleRate,
      maxFrames: TRACE_FRAMES,
      meterHops: 0,
      impulses: this.impulses,
      startFrame: -(start?.latency ?? 0),
      // What was kept has its edges already.
      edges: start ? undefined : edgeGain(lane.edges, { sampleRate: audio.sampleRate, frames }),
    };
    this.kernels = kernelsFor(lane, options, this.kernels);
    const processor = new LaneProcessor(lane, options, this.kernels);
    const inputLatency = start?.latency ?? 0;
    const latency = inputLatency + processor.latency;
    const source = start ?? audio;
    const keep =
      keepAt > skipped
        ? this.makeKept(keys[keepAt - 1], keepAt, inputLatency + processor.latencyAt(keepAt - skipped))
        : null;
    const total = Math.max(frames + latency + QUANTUM, keep ? keep.left.length : 0);
    const rendered = control.output === null ? 0 : frames;
    const output = control.output ?? { left: new Float32Array(rendered), right: new Float32Array(rendered) };
    const trace = () => new Float32Array(Math.ceil(frames / TRACE_FRAMES));
    const traces = stages.map(trace);
    const bandTraces = stages.map((stage) =>
      traitsOf(stage).byBands?.reductions ? [...crossovers.frequenciesHz, Infinity].map(trace) : [],
    );
    const { left, right, kernels } = processor;
    const masterPicture = new Picture(kernels, frames);
    const mixPicture = this.mix ? null : new Picture(kernels, frames);
    const singles = [0, 1].map(() => {
      const address = kernels.allocate(TRACE_FRAMES * 4) >> 2;
      return kernels.f32.subarray(address, address + TRACE_FRAMES);
    });
    const [singleLeft, singleRight] = singles.map(({ byteOffset }) => byteOffset);
    const watcher = this.watcher({
      sampleRate: audio.sampleRate,
      trackFrames: frames,
      counted: countedSpan(lane.edges, audio.sampleRate, frames),
      stages,
      crossovers,
      latencies: Array.from({ length: stages.length + 1 }, (_, joint) => processor.latencyAt(joint)),
      inputLatency,
      meterInput: this.mix === null,
      loudest: this.loudest,
    });
    const reductions = stages.map(() => 0);
    const touched = stages.map((): number | null => null);
    let position = 0;
    const tap = (joint: number) => {
      watcher.take(position / TRACE_FRAMES, joint, left, right);
      if (keep && joint === keepAt - skipped) {
        const room = Math.max(0, Math.min(TRACE_FRAMES, keep.left.length - position));
        keep.left.set(left.subarray(0, room), position);
        keep.right.set(right.subarray(0, room), position);
      }
    };

    try {
      for (let block = 0; position < total; block++) {
        if (block % BLOCKS_PER_TURN === 0) await control.turn(position / total);
        copyBlock(source.left, position, left);
        copyBlock(source.right, position, right);
        processor.process(TRACE_FRAMES, tap);

        const from = Math.max(0, latency - position);
        const to = Math.min(TRACE_FRAMES, frames + latency - position);
        if (to > from) {
          const at = position + from - latency;
          kernels.run.toSingle(processor.leftAddress, singleLeft, TRACE_FRAMES);
          kernels.run.toSingle(processor.rightAddress, singleRight, TRACE_FRAMES);
          if (rendered > 0) {
            output.left.set(singles[0].subarray(from, to), at);
            output.right.set(singles[1].subarray(from, to), at);
          }
          masterPicture.drawn(singleLeft + from * 4, singleRight + from * 4, at, to - from);
        }
        if (mixPicture && position < frames) {
          const present = Math.min(TRACE_FRAMES, frames - position);
          singles[0].set(audio.left.subarray(position, position + present));
          singles[1].set(audio.right.subarray(position, position + present));
          mixPicture.drawn(singleLeft, singleRight, position, present);
        }
        // Blocks after the end of the track have no place in the traces.
        for (let i = 0; i < stages.length; i++) {
          reductions[i] = traces[i][block] = processor.takeGainReduction(i);
          touched[i] = processor.takeTouched(i);
          if (bandTraces[i].length > 0)
            processor.bandReductions(i).forEach((reduction, band) => (bandTraces[i][band][block] = reduction));
        }
        watcher.endBlock(block, reductions, touched);
        position += TRACE_FRAMES;
      }
      await control.turn(1);
    } catch (error) {
      watcher.abandon();
      // A measuring thread that failed tells its reason a moment later.
      if (error instanceof MeasuringStopped && error.failed) await watcher.finish();
      throw error;
    }

    const watched = await watcher.finish();
    if (watched.mix && mixPicture) this.mix = { ...watched.mix, picture: mixPicture.values };
    watched.stages.forEach((around, i) => {
      const reduces = traces[i].some((value) => value > 0);
      this.readings.set(keys[skipped + i], {
        ...around,
        gainReduction: reduces ? traces[i] : null,
        bandReduction: reduces && bandTraces[i].length > 0 ? bandTraces[i] : null,
        latency: processor.latencyOf(i),
      });
    });
    if (keep) this.kept = keep;
    return {
      master: { ...watched.master, picture: masterPicture.values },
      passageBalance: watched.passageBalance,
      left: output.left,
      right: output.right,
    };
  }

  private makeKept(key: string, stages: number, latency: number): KeptJoint | null {
    const frames = this.audio.left.length + latency + TAIL_FRAMES;
    if (frames * 16 > this.keepBytes) return null;
    this.kept = null;
    return { key, stages, latency, left: new Float64Array(frames), right: new Float64Array(frames) };
  }
}
