import type { LiveReadings } from '../../engine/live/protocol';

/** Readings kept for the moving histories: 12 s at 30 a second. */
export const HISTORY = 360;
/** Readings between two updates of figures in text. */
const TEXT_EVERY = 4;
/** Readings for which a peak is held. */
const HOLD = 60;

export interface HeldPeak {
  /** dB */
  value: number;
  age: number;
}

/** What the worklet last said, kept outside React: canvases read it on every frame, texts are told a few times a second. */
export class LiveBoard {
  latest: LiveReadings | null = null;
  readonly history: LiveReadings[] = [];
  /** Held sample and true peak of both channels. */
  readonly held = { sample: [hold(), hold()], true: [hold(), hold()] };
  /** Held gain reduction of each stage, dB. */
  readonly reductions: HeldPeak[] = [];
  private count = 0;
  private readonly listeners = new Set<() => void>();

  push(readings: LiveReadings): void {
    this.latest = readings;
    if (readings.playing) {
      this.history.push(readings);
      if (this.history.length > HISTORY) this.history.shift();
    }
    const { heard } = readings;
    for (const channel of [0, 1]) {
      keep(this.held.sample[channel], heard.samplePeaksDbfs[channel]);
      keep(this.held.true[channel], heard.truePeaksDbtp[channel]);
      // A true peak is never below the sample peak beside it, also when that one was held a moment longer.
      this.held.true[channel].value = Math.max(this.held.true[channel].value, this.held.sample[channel].value);
    }
    this.reductions.length = readings.gainReduction.length;
    readings.gainReduction.forEach((reduction, i) => keep((this.reductions[i] ??= hold(0)), reduction));
    if (++this.count % TEXT_EVERY === 0 || !readings.playing) for (const listener of this.listeners) listener();
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
}

function hold(value = -Infinity): HeldPeak {
  return { value, age: 0 };
}

function keep(held: HeldPeak, value: number): void {
  if (value >= held.value || ++held.age > HOLD) {
    held.value = value;
    held.age = 0;
  }
}
