import { QUANTUM } from '../../core/kernels/layout';
import type { LaneProcessor } from '../../core/lane/processor';
import type { JointMeter } from '../../core/measure/joint-meter';
import { SHORT_TERM_HOPS, MOMENTARY_HOPS, loudness } from '../../core/measure/loudness-statistics';
import { inDecibels, type Channels } from '../../core/measure/peak';
import type { LiveJoint } from './protocol';

/** Quanta that the longest time between two readings has; of a longer one the newest count. */
const READING_QUANTA = 128;

/** The peaks of one joint, quantum by quantum, as far back as it leads the output. */
class PeakLine {
  /** Sample peak left and right, true peak left and right, of each quantum. */
  private readonly values: Float32Array;
  private readonly size: number;
  private at = 0;

  constructor(
    readonly meter: JointMeter,
    /** Quanta by which the joint leads the output. */
    private readonly lead: number,
  ) {
    this.size = lead + READING_QUANTA;
    this.values = new Float32Array(this.size * 4);
  }

  /** Takes the peaks since the last call. */
  take(): void {
    const { peak } = this.meter;
    const place = (this.at++ % this.size) * 4;
    for (let channel = 0; channel < 2; channel++) {
      this.values[place + channel] = peak.samplePeak(channel);
      this.values[place + 2 + channel] = peak.truePeak(channel);
    }
    peak.clear();
  }

  /** Sample or true peaks, linear, of what reached the output in the last `quanta`. */
  peaks(quanta: number, kind: 'sample' | 'true'): Channels {
    const most: Channels = [0, 0];
    const first = kind === 'sample' ? 0 : 2;
    const end = this.at - this.lead;
    for (let quantum = Math.max(0, end - quanta); quantum < end; quantum++)
      for (const channel of [0, 1] as const)
        most[channel] = Math.max(most[channel], this.values[(quantum % this.size) * 4 + first + channel]);
    return most;
  }
}

/**
 * Levels at the joints of a running lane as they are heard. A joint leads the output by the latency of the stages in
 * between; its levels are delayed by that, so that all joints show the same moment of the track.
 */
export class JointLevels {
  /** One for each joint that is metered: a stage that is off has none of its own. */
  private readonly lines: PeakLine[] = [];
  private readonly lineOf: PeakLine[];
  private readonly last: JointMeter;
  private quanta = 0;

  constructor(readonly processor: LaneProcessor) {
    const { joints, latency } = processor;
    this.last = joints[joints.length - 1];
    this.lineOf = joints.map((meter, i) => {
      const known = this.lines.find((line) => line.meter === meter);
      if (known) return known;
      const line = new PeakLine(meter, Math.round((latency - processor.latencyAt(i)) / QUANTUM));
      this.lines.push(line);
      return line;
    });
  }

  /** Takes what a quantum left in the meters. */
  take(): void {
    for (const line of this.lines) line.take();
    this.quanta = Math.min(this.quanta + 1, READING_QUANTA);
  }

  /** Begins the next readings. */
  clear(): void {
    this.quanta = 0;
  }

  /** Of the louder channel, since the last readings. */
  levels(joint: number): LiveJoint {
    return {
      momentaryLufs: this.momentaryLufs(joint),
      samplePeakDbfs: Math.max(...this.samplePeaksDbfs(joint)),
      truePeakDbtp: Math.max(...this.truePeaksDbtp(joint)),
    };
  }

  samplePeaksDbfs(joint: number): Channels {
    return inDecibels(this.lineOf[joint].peaks(this.quanta, 'sample'));
  }

  truePeaksDbtp(joint: number): Channels {
    return inDecibels(this.lineOf[joint].peaks(this.quanta, 'true'));
  }

  momentaryLufs(joint: number): number {
    return this.lufs(joint, MOMENTARY_HOPS);
  }

  shortTermLufs(joint: number): number {
    return this.lufs(joint, SHORT_TERM_HOPS);
  }

  /** The hops of all joints are those of the track, so that the newest of the output tells where to end. */
  private lufs(joint: number, hops: number): number {
    return loudness(this.lineOf[joint].meter.loudness.meanEnergy(hops, this.last.loudness.hopCount));
  }
}
