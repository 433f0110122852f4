import { createStore } from 'zustand/vanilla';
import type { Lane } from '../../core/lane/schema';
import { sentenceOf } from '../../core/sentence-of';
import { atLoudness, type LoudVersion } from '../../engine/measure/loudness-matching';
import type { Measurement, RenderedMeasurement } from '../../engine/measure/measurement';
import type { StereoBuffer } from '../../engine/sources/places';
import { Cancelled, laneKey, Overtaken, type MeasuringQueue, type MeasuringTicket } from '../../engine/measure/queue';

export interface MeasurementsState {
  /** The newest measurement of the lane; null before the first. */
  measurement: Measurement | null;
  /** Whether that came from the server, which had kept it. */
  kept: boolean;
  /** The rendered master of that measurement; null while only its figures are known, and where it found no memory. */
  rendered: StereoBuffer | null;
  /** Share of the measurement under way that is done; null when the newest is up to date. */
  share: number | null;
  problem: string | null;
}

/** Quick changes are measured together. */
const DELAY_MS = 60;

/** Whether a request ended because nobody wants its result. */
export function isUnwanted(error: unknown): boolean {
  return error instanceof Overtaken || error instanceof Cancelled;
}

/** Drives lanes to one loudness, one after another. */
export interface LoudnessRun {
  measure(lane: Lane): Promise<LoudVersion>;
  /** Ends what is under way. */
  close(): void;
}

/** What is measured of the lane over the whole track, again after each change. */
export class Measurements {
  readonly store = createStore<MeasurementsState>(() => ({
    measurement: null,
    kept: false,
    rendered: null,
    share: null,
    problem: null,
  }));
  private queue: MeasuringQueue | null = null;
  private ticket: MeasuringTicket<RenderedMeasurement> | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private waiting: Lane | null = null;
  private asked = '';
  /** The lane that could not be measured, twice. */
  private failed: Lane | null = null;
  /** The lane of a kept measurement that is shown: rendering it changes no figure. */
  private shown = '';

  /** Begins to measure. */
  open(queue: MeasuringQueue): void {
    this.queue = queue;
  }

  /** Shows a kept measurement of the lane as it stands, unless there is a measurement already. */
  show(lane: Lane, measurement: Measurement): void {
    if (this.store.getState().measurement) return;
    this.shown = laneKey(lane);
    this.store.setState({ measurement, kept: true, share: null });
  }

  /** Has the lane measured in a moment, unless nothing that sounds has changed. */
  follow(lane: Lane): void {
    const key = laneKey(lane);
    if (key === this.asked) return;
    this.store.setState({ share: key === this.shown ? null : 0 });
    if (!this.queue) return;
    this.asked = key;
    this.waiting = lane;
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.measure(lane), DELAY_MS);
  }

  /** Drives lanes to a loudness in LUFS. Throws with a sentence while the mix is not there. */
  matchLoudness(targetLufs: number): LoudnessRun {
    const { queue } = this;
    if (!queue) throw new Error('The mix is still loading. Try again in a moment.');
    let current: MeasuringTicket<RenderedMeasurement> | null = null;
    let closed = false;
    const run = async (lane: Lane) => {
      if (closed) throw new Cancelled();
      current = queue.request({ subject: 'loudness', lane, priority: 'visible' });
      try {
        return await current.result;
      } finally {
        current.release();
      }
    };
    return {
      measure: (lane) => atLoudness(lane, targetLufs, run),
      close: () => {
        closed = true;
        current?.release();
      },
    };
  }

  /** Measures again what could not be measured. */
  retry(): void {
    const lane = this.failed;
    if (!lane) return;
    this.store.setState({ problem: null, share: 0 });
    this.measure(lane);
  }

  close(): void {
    clearTimeout(this.timer);
    this.queue?.close();
  }

  private measure(lane: Lane, again = false): void {
    this.waiting = null;
    this.failed = null;
    const before = this.ticket;
    const ticket = this.queue!.request({
      subject: 'lane',
      lane,
      priority: 'edited',
      onProgress: (share) => {
        if (this.ticket === ticket && this.waiting === null && laneKey(lane) !== this.shown)
          this.store.setState({ share });
      },
    });
    this.ticket = ticket;
    ticket.result.then(
      (measurement) => {
        if (this.ticket !== ticket) return;
        const { left, right } = measurement;
        const known = laneKey(lane) === this.shown ? this.store.getState().measurement : null;
        this.shown = '';
        this.store.setState({
          measurement: known ?? measurement,
          kept: known !== null,
          rendered: left.length > 0 ? { left, right } : null,
          // When a newer change is about to be measured, this is not up to date.
          share: this.waiting ? 0 : null,
          problem: null,
        });
        before?.release();
      },
      (error: Error) => {
        before?.release();
        if (isUnwanted(error) || this.ticket !== ticket || this.waiting) return;
        // The queue has replaced the worker meanwhile: what was an accident does not happen twice.
        if (!again) return this.measure(lane, true);
        this.failed = lane;
        this.store.setState({ problem: sentenceOf(error), share: null });
      },
    );
  }
}
