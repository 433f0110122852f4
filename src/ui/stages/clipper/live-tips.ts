import { mergeTips, TipMeter, type TipsReading } from '../../../core/measure/tips';
import type { Taps } from '../../../engine/live/protocol';
import { liveWindow, mostFrames } from '../distortion/live-window';

/** Stretches whose tips are shown, and seconds of each: the last five seconds. */
const STRETCHES = 5;
const STRETCH_SECONDS = 1;

/** The tips of what was just played, read from the taps as they fill. */
export class LiveTips {
  private readonly done: TipsReading[] = [];
  private meters: [TipMeter, TipMeter];
  private frames = 0;
  private read: number;

  /** The ceiling as an amplitude of the input. */
  constructor(
    private readonly taps: Taps,
    private readonly sampleRate: number,
    private readonly ceiling: number,
  ) {
    this.meters = this.fresh();
    this.read = taps.written[0];
  }

  /** Reads what is new, the tap before the stage leading by `lead` frames; gives the tips of the last seconds. */
  take(lead: number): TipsReading {
    const [written] = this.taps.written;
    const frames = Math.min(written - this.read, mostFrames(lead));
    this.read = written;
    if (frames > 0) {
      (['left', 'right'] as const).forEach((channel, i) => {
        const { before, after } = liveWindow(this.taps, channel, frames, lead);
        this.meters[i].add(before, after);
      });
      this.frames += frames;
    }
    const now = this.meters.map((meter) => meter.reading());
    if (this.frames >= STRETCH_SECONDS * this.sampleRate) {
      this.done.push(mergeTips(now));
      if (this.done.length >= STRETCHES) this.done.shift();
      this.meters = this.fresh();
      this.frames = 0;
      return mergeTips(this.done);
    }
    return mergeTips([...this.done, ...now]);
  }

  private fresh(): [TipMeter, TipMeter] {
    const meter = () => new TipMeter(this.sampleRate, this.ceiling);
    return [meter(), meter()];
  }
}
