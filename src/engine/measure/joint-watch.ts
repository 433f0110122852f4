import { Kernels } from '../../core/kernels/host';
import { LaneProcessor, type RunningLane } from '../../core/lane/processor';
import type { Stage } from '../../core/lane/schema';
import { linearReference } from '../../core/lane/linear-reference';
import { inDecibels } from '../../core/measure/peak';
import { PeakTrace } from '../../core/measure/peak-trace';
import { traitsOf } from '../../core/stages/registry';
import { AverageSpectrum } from '../../core/measure/average-spectrum';
import { BalanceMeter, type BalanceBand } from '../../core/measure/balance';
import { BandLevelMeter } from '../../core/measure/band-levels';
import { ImageMeter } from '../../core/measure/image';
import { JointMeter } from '../../core/measure/joint-meter';
import { BLOCK_STEP_HOPS, HOPS_PER_SECOND } from '../../core/measure/loudness-statistics';
import { decibels } from '../../core/signal/decibels';
import { DistortionWatch } from './distortion-watch';
import {
  TRACE_FRAMES,
  type JointReading,
  type ProgrammeReading,
  type Span,
  type StageDistortion,
  type StageImages,
  type StagePeaks,
  type StageSpectra,
} from './measurement';

/** What is to be measured of a lane while it runs. */
export interface WatchPlan {
  /** Hz */
  sampleRate: number;
  trackFrames: number;
  /** What of the track counts for loudness, in frames. */
  counted: Span;
  /** The stages that run. */
  stages: Stage[];
  crossovers: RunningLane['crossovers'];
  /** Frames by which each joint trails the first one. */
  latencies: number[];
  /** Frames by which the first joint trails the mix. */
  inputLatency: number;
  /** Whether the first joint is the mix, and not known yet. */
  meterInput: boolean;
  loudest: Span | null;
}

/** Everything that is measured of a track but its picture. */
export type WholeReading = Omit<ProgrammeReading, 'picture'>;

/** What was measured around one stage. */
export interface WatchedStage {
  joint: JointReading;
  spectra: StageSpectra | null;
  images: StageImages | null;
  peaks: StagePeaks | null;
  bandLevels: Float32Array[] | null;
  distortion: StageDistortion | null;
}

export interface WatchResult {
  /** The first joint; null when it was known. */
  mix: WholeReading | null;
  master: WholeReading;
  passageBalance: BalanceBand[] | null;
  stages: WatchedStage[];
}

/** Takes the signal at the joints of a lane while it runs; here, or on another thread. */
export interface Watcher {
  /** A block at a joint. */
  take(block: number, joint: number, left: Float64Array, right: Float64Array): void;
  /** The end of a block: for each stage the dB that it took at most, and the share of the samples it clipped. */
  endBlock(block: number, reductions: readonly number[], touched: readonly (number | null)[]): void;
  finish(): Promise<WatchResult>;
  /** Ends the watch without a result. */
  abandon(): void;
}

/** Gathers the times at which a signal is over full scale. */
class OverTimes {
  readonly seconds: number[] = [];
  private known = 0;

  count(total: number, seconds: number): void {
    if (total > this.known) this.seconds.push(Math.max(0, seconds));
    this.known = total;
  }
}

/** Measures the joints of a lane on the thread it is called from. */
export class JointWatch implements Watcher {
  private readonly left: number;
  private readonly right: number;
  private readonly meters: (JointMeter | null)[];
  private readonly averages = new Map<number, AverageSpectrum>();
  private readonly images = new Map<number, ImageMeter>();
  private readonly peaks = new Map<number, PeakTrace>();
  private readonly bandLevels: (BandLevelMeter | null)[];
  private readonly distortions: (DistortionWatch | null)[];
  /** What nonlinear stages do besides distorting. */
  private readonly linear: (LaneProcessor | null)[];
  private readonly mixOvers = new OverTimes();
  private readonly masterOvers = new OverTimes();
  private readonly last: number;
  private readonly balance: BalanceMeter | null;

  /** `kernels` whose memory it uses, left out: its own. */
  constructor(
    private readonly plan: WatchPlan,
    private readonly kernels = new Kernels(),
  ) {
    const { sampleRate, trackFrames, stages, latencies, inputLatency, meterInput, crossovers, loudest, counted } = plan;
    const hops = Math.ceil((trackFrames / sampleRate) * HOPS_PER_SECOND) + 1;
    this.left = kernels.allocate(TRACE_FRAMES * 8);
    this.right = kernels.allocate(TRACE_FRAMES * 8);
    this.last = stages.length;
    this.balance = loudest && new BalanceMeter(sampleRate, kernels);
    this.meters = latencies.map((delay, joint) =>
      joint > 0 || meterInput || stages.length === 0
        ? new JointMeter(
            ...([kernels, sampleRate, TRACE_FRAMES, hops] as const),
            inputLatency + delay + counted.start,
            counted.end - counted.start,
          )
        : null,
    );
    stages.forEach((stage, i) => {
      const { spectra, image, peaks } = traitsOf(stage).measures ?? {};
      for (const joint of [i, i + 1]) {
        if (peaks && !this.peaks.has(joint))
          this.peaks.set(joint, new PeakTrace(TRACE_FRAMES, inputLatency + latencies[joint], trackFrames));
        if (spectra && !this.averages.has(joint)) this.averages.set(joint, new AverageSpectrum(kernels, sampleRate));
        if (image && !this.images.has(joint))
          this.images.set(joint, new ImageMeter(kernels, sampleRate, crossovers, hops));
      }
    });
    this.bandLevels = stages.map((stage) =>
      traitsOf(stage).measures?.bandLevels ? new BandLevelMeter(kernels, sampleRate, crossovers) : null,
    );
    this.linear = stages.map((stage) => {
      const linear = linearReference(stage, crossovers);
      return (
        linear &&
        new LaneProcessor(
          { stages: [linear], crossovers },
          { sampleRate, maxFrames: TRACE_FRAMES, meterHops: 0 },
          kernels,
        )
      );
    });
    this.distortions = stages.map((stage, i) =>
      traitsOf(stage).nonlinear
        ? new DistortionWatch(
            sampleRate,
            latencies[i + 1] - latencies[i],
            this.linear[i] ? 0 : latencies[i + 1] - latencies[i],
            inputLatency + latencies[i],
            loudest,
            trackFrames,
            traitsOf<Stage>(stage).measures?.tips?.(stage.settings) ?? null,
          )
        : null,
    );
  }

  take(block: number, joint: number, left: Float64Array, right: Float64Array): void {
    const { f64 } = this.kernels;
    const { plan, meters } = this;
    f64.set(left, this.left >> 3);
    f64.set(right, this.right >> 3);
    const position = block * TRACE_FRAMES;
    meters[joint]?.add(this.left, this.right, TRACE_FRAMES);
    if (joint === 0) this.count(this.mixOvers, 0, position);
    if (joint === this.last) this.takeMaster(position, left, right);
    if (position + TRACE_FRAMES <= plan.trackFrames) this.averages.get(joint)?.add(this.left, this.right, TRACE_FRAMES);
    this.peaks.get(joint)?.add(left, right);
    this.bandLevels[joint]?.add(this.left, this.right, TRACE_FRAMES);
    const image = this.images.get(joint);
    if (image) {
      const late = plan.inputLatency + plan.latencies[joint];
      const first = Math.max(0, late - position);
      const count = Math.min(TRACE_FRAMES, plan.trackFrames + late - position) - first;
      if (count > 0) image.add(this.left + first * 8, this.right + first * 8, count);
    }
    const linear = this.linear[joint];
    if (linear) {
      linear.left.set(left);
      linear.right.set(right);
      linear.process(TRACE_FRAMES);
      this.distortions[joint]?.takeBefore(block, linear.left, linear.right);
    } else {
      this.distortions[joint]?.takeBefore(block, left, right);
    }
    if (joint > 0) this.distortions[joint - 1]?.takeAfter(block, left, right);
  }

  private takeMaster(position: number, left: Float64Array, right: Float64Array): void {
    const { plan, last } = this;
    const at = position - plan.latencies[last] - plan.inputLatency;
    this.count(this.masterOvers, last, at);
    if (!plan.loudest) return;
    const from = Math.max(0, plan.loudest.start - at);
    const to = Math.min(TRACE_FRAMES, plan.loudest.end - at);
    if (to > from) this.balance?.add(left.subarray(from, to), right.subarray(from, to));
  }

  endBlock(block: number, reductions: readonly number[], touched: readonly (number | null)[]): void {
    this.distortions.forEach((watch, i) => watch?.watch(block, reductions[i], touched[i]));
  }

  finish(): Promise<WatchResult> {
    return Promise.resolve(this.result());
  }

  abandon(): void {}

  result(): WatchResult {
    const { plan, meters, averages, images, peaks } = this;
    const startSeconds = plan.counted.start / plan.sampleRate;
    return {
      mix: plan.meterInput ? wholeReading(meters[0]!, this.mixOvers, startSeconds) : null,
      master: wholeReading(meters[this.last]!, this.masterOvers, startSeconds),
      passageBalance: this.balance?.result() ?? null,
      stages: plan.stages.map((stage, i) => {
        const measures = traitsOf(stage).measures ?? {};
        return {
          joint: jointReading(meters[i + 1]!),
          spectra: measures.spectra
            ? { before: averages.get(i)!.levels(), after: averages.get(i + 1)!.levels() }
            : null,
          images: measures.image ? { before: images.get(i)!.result(), after: images.get(i + 1)!.result() } : null,
          peaks: measures.peaks ? { before: peaks.get(i)!.values, after: peaks.get(i + 1)!.values } : null,
          bandLevels: this.bandLevels[i]?.result() ?? null,
          distortion: this.distortions[i]?.reading() ?? null,
        };
      }),
    };
  }

  private count(overs: OverTimes, joint: number, frame: number): void {
    const meter = this.meters[joint];
    if (meter) overs.count(meter.peak.overs(), frame / this.plan.sampleRate);
  }
}

function jointReading({ loudness, peak }: JointMeter): JointReading {
  return {
    integratedLufs: loudness.report().integrated,
    samplePeakDbfs: decibels(Math.max(...peak.samplePeaks())),
    truePeakDbtp: decibels(Math.max(...peak.truePeaks())),
  };
}

/** A series of values each 100 ms that begins `seconds` into the track, in the time of the track. */
function inTrackTime(series: Float32Array, seconds: number): Float32Array {
  const before = Math.round((seconds * HOPS_PER_SECOND) / BLOCK_STEP_HOPS);
  const moved = new Float32Array(before + series.length).fill(-Infinity);
  moved.set(series, before);
  return moved;
}

/** `startSeconds` is where in the track its loudness begins to count. */
function wholeReading(meter: JointMeter, { seconds }: OverTimes, startSeconds: number): WholeReading {
  const report = meter.loudness.report();
  const basic = jointReading(meter);
  return {
    ...basic,
    maxMomentaryLufs: report.maxMomentary,
    maxShortTermLufs: report.maxShortTerm,
    rangeLu: report.range,
    plrLu: basic.truePeakDbtp - basic.integratedLufs,
    samplePeaksDbfs: inDecibels(meter.peak.samplePeaks()),
    truePeaksDbtp: inDecibels(meter.peak.truePeaks()),
    momentary: inTrackTime(report.momentary, startSeconds),
    shortTerm: inTrackTime(report.shortTerm, startSeconds),
    overs: Float32Array.from(seconds),
  };
}
