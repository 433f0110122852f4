import { Kernels } from '../../core/kernels/host';
import { LaneProcessor, type RunningLane } from '../../core/lane/processor';
import type { Stage } from '../../core/lane/schema';
import { straightened } from '../../core/lane/straight';
import type { StageKind } from '../../core/stages/registry';
import { bendsWave, isBandwise } from '../../core/stages/registry';
import { AverageSpectrum } from '../../core/measure/average-spectrum';
import { ImageMeter } from '../../core/measure/image';
import { JointMeter } from '../../core/measure/joint-meter';
import { HOPS_PER_SECOND } from '../../core/measure/loudness-statistics';
import { decibels } from '../../core/signal/decibels';
import { BendWatch, type BendReading } from './bend-watch';
import {
  PASS_FRAMES,
  type JointReading,
  type ProgrammeReading,
  type Span,
  type StageImages,
  type StageSpectra,
} from './result';

/** What is to be measured of a lane while it runs. */
export interface WatchPlan {
  /** Hz */
  sampleRate: number;
  programmeFrames: number;
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

/** Everything a full pass says of a programme but its picture. */
export type WholeReading = Omit<ProgrammeReading, 'picture'>;

/** What was measured around one stage. */
export interface WatchedStage {
  joint: JointReading;
  spectra: StageSpectra | null;
  images: StageImages | null;
  bend: BendReading | null;
}

export interface WatchResult {
  /** The first joint; null when it was known. */
  mix: WholeReading | null;
  master: WholeReading;
  stages: WatchedStage[];
}

/** Takes the signal at the joints of a lane while it runs; here, or on another thread. */
export interface Watcher {
  /** A block at a joint. */
  take(block: number, joint: number, left: Float64Array, right: Float64Array): void;
  /** The end of a block: for each stage the dB that it took at most, and the share of the samples it bent. */
  endBlock(block: number, reductions: readonly number[], touched: readonly (number | null)[]): void;
  finish(): Promise<WatchResult>;
  /** Ends the watch without a result. */
  abandon(): void;
}

/** Whether the workspace draws the average spectra around a stage. */
function drawsSpectra(kind: StageKind): boolean {
  return kind === 'equalizer' || kind === 'deEsser' || (isBandwise(kind) && kind !== 'limiter');
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
  private readonly kernels = new Kernels();
  private readonly left: number;
  private readonly right: number;
  private readonly meters: (JointMeter | null)[];
  private readonly averages = new Map<number, AverageSpectrum>();
  private readonly images = new Map<number, ImageMeter>();
  private readonly bends: (BendWatch | null)[];
  /** What stages that bend the wave do besides bending it. */
  private readonly straight: (LaneProcessor | null)[];
  private readonly mixOvers = new OverTimes();
  private readonly masterOvers = new OverTimes();
  private readonly last: number;

  constructor(private readonly plan: WatchPlan) {
    const { kernels } = this;
    const { sampleRate, programmeFrames, stages, latencies, inputLatency, meterInput, crossovers, loudest } = plan;
    const hops = Math.ceil((programmeFrames / sampleRate) * HOPS_PER_SECOND) + 1;
    this.left = kernels.allocate(PASS_FRAMES * 8);
    this.right = kernels.allocate(PASS_FRAMES * 8);
    this.last = stages.length;
    this.meters = latencies.map((delay, joint) =>
      joint > 0 || meterInput || stages.length === 0
        ? new JointMeter(kernels, sampleRate, PASS_FRAMES, hops, inputLatency + delay, programmeFrames)
        : null,
    );
    stages.forEach(({ kind }, i) => {
      for (const joint of [i, i + 1]) {
        if (drawsSpectra(kind) && !this.averages.has(joint))
          this.averages.set(joint, new AverageSpectrum(kernels, sampleRate));
        if (kind === 'stereo' && !this.images.has(joint))
          this.images.set(joint, new ImageMeter(kernels, sampleRate, crossovers, hops));
      }
    });
    this.straight = stages.map((stage) => {
      const straight = straightened(stage, crossovers);
      return (
        straight &&
        new LaneProcessor(
          { stages: [straight], crossovers },
          { sampleRate, maxFrames: PASS_FRAMES, meterHops: 0 },
          kernels,
        )
      );
    });
    this.bends = stages.map(({ kind }, i) =>
      bendsWave(kind)
        ? new BendWatch(
            sampleRate,
            latencies[i + 1] - latencies[i],
            this.straight[i] ? 0 : latencies[i + 1] - latencies[i],
            inputLatency + latencies[i],
            loudest,
            programmeFrames,
          )
        : null,
    );
  }

  take(block: number, joint: number, left: Float64Array, right: Float64Array): void {
    const { f64 } = this.kernels;
    const { plan, meters } = this;
    f64.set(left, this.left >> 3);
    f64.set(right, this.right >> 3);
    const position = block * PASS_FRAMES;
    meters[joint]?.add(this.left, this.right, PASS_FRAMES);
    if (joint === 0) this.count(this.mixOvers, 0, position);
    if (joint === this.last) this.count(this.masterOvers, joint, position - plan.latencies[joint] - plan.inputLatency);
    if (position + PASS_FRAMES <= plan.programmeFrames)
      this.averages.get(joint)?.add(this.left, this.right, PASS_FRAMES);
    const image = this.images.get(joint);
    if (image) {
      const late = plan.inputLatency + plan.latencies[joint];
      const first = Math.max(0, late - position);
      const count = Math.min(PASS_FRAMES, plan.programmeFrames + late - position) - first;
      if (count > 0) image.add(this.left + first * 8, this.right + first * 8, count);
    }
    const straight = this.straight[joint];
    if (straight) {
      straight.left.set(left);
      straight.right.set(right);
      straight.process(PASS_FRAMES);
      this.bends[joint]?.takeBefore(block, straight.left, straight.right);
    } else {
      this.bends[joint]?.takeBefore(block, left, right);
    }
    if (joint > 0) this.bends[joint - 1]?.takeAfter(block, left, right);
  }

  endBlock(block: number, reductions: readonly number[], touched: readonly (number | null)[]): void {
    this.bends.forEach((bend, i) => bend?.watch(block, reductions[i], touched[i]));
  }

  finish(): Promise<WatchResult> {
    return Promise.resolve(this.result());
  }

  abandon(): void {}

  result(): WatchResult {
    const { plan, meters, averages, images } = this;
    return {
      mix: plan.meterInput ? wholeReading(meters[0]!, this.mixOvers) : null,
      master: wholeReading(meters[this.last]!, this.masterOvers),
      stages: plan.stages.map(({ kind }, i) => ({
        joint: jointReading(meters[i + 1]!),
        spectra: drawsSpectra(kind)
          ? { before: averages.get(i)!.levels(), after: averages.get(i + 1)!.levels() }
          : null,
        images: kind === 'stereo' ? { before: images.get(i)!.result(), after: images.get(i + 1)!.result() } : null,
        bend: this.bends[i]?.reading() ?? null,
      })),
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

function wholeReading(meter: JointMeter, { seconds }: OverTimes): WholeReading {
  const report = meter.loudness.report();
  const basic = jointReading(meter);
  return {
    ...basic,
    maxMomentaryLufs: report.maxMomentary,
    maxShortTermLufs: report.maxShortTerm,
    rangeLu: report.range,
    plrLu: basic.truePeakDbtp - basic.integratedLufs,
    samplePeak: meter.peak.samplePeaks(),
    truePeak: meter.peak.truePeaks(),
    momentary: report.momentary,
    shortTerm: report.shortTerm,
    overs: Float32Array.from(seconds),
  };
}
