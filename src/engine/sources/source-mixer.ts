import { QUANTUM } from '../../core/kernels/layout';
import { amplitude } from '../../core/signal/decibels';
import { BufferSource } from './buffer-source';
import type { Places, StereoBuffer } from './places';
import { Ramp } from './ramp';
import type { SourcePlace } from './source-place';

/** The id of the lane that runs live. */
export const LIVE = 'lane';
/** The id of the untouched mix. */
export const MIX = 'mix';

interface Entry {
  id: string;
  /** Null for the live lane, whose signal is handed in. */
  buffer: BufferSource | null;
  /** Share in what is heard: 1, 0, or −1 while it is taken away from another. */
  weight: Ramp;
  gain: Ramp;
}

/** What the live lane puts out. */
export interface LaneOutput {
  left: Float64Array;
  right: Float64Array;
}

/** What is heard: one source, or one less another. */
export interface Heard {
  source: string;
  /** The source taken away from it; null for none. */
  less: string | null;
}

/**
 * Any number of sources at one place in the track, each with its own gain, of which one is heard or the difference of
 * two.
 */
export class SourceMixer {
  private readonly entries: Entry[] = [];
  private heard: Heard = { source: LIVE, less: null };
  private readonly left = new Float32Array(QUANTUM);
  private readonly right = new Float32Array(QUANTUM);

  constructor(private readonly rampFrames: number) {
    this.add(LIVE, null);
  }

  /** Sets where a source that plays from a buffer stands for each frame of the track. */
  setPlace(id: string, place: SourcePlace): void {
    const found = this.entries.find((entry) => entry.id === id);
    found?.buffer?.replace({ place }, isAudible(found));
  }

  /** Adds a source that plays from a buffer, or gives it another buffer. */
  set(id: string, buffer: StereoBuffer): void {
    const known = this.entries.find((entry) => entry.id === id);
    if (known?.buffer) known.buffer.replace({ buffer }, isAudible(known));
    else if (!known) this.add(id, new BufferSource(buffer, this.rampFrames));
  }

  /** Takes a source away; one that is heard fades out first. */
  remove(id: string): void {
    if (this.heard.source === id) this.hear({ source: LIVE, less: null });
    else if (this.heard.less === id) this.hear({ ...this.heard, less: null });
    const at = this.entries.findIndex((entry) => entry.id === id);
    if (at >= 0) this.entries[at].id = '';
    this.forget();
  }

  /** Fades to another source, or to the difference of two. */
  hear(heard: Heard): void {
    this.heard = heard;
    for (const { id, weight } of this.entries)
      weight.moveTo(id === heard.source ? 1 : id !== '' && id === heard.less ? -1 : 0);
  }

  /** Sets the gain of a source in dB. */
  setGain(id: string, gainDb: number): void {
    this.entries.find((entry) => entry.id === id)?.gain.moveTo(amplitude(gainDb));
  }

  /** The source that is heard, alone or minus another. */
  get source(): string {
    return this.heard.source;
  }

  /**
   * One quantum of what is heard, at places in the track; `live` is the lane's output there. With `moving` false
   * nothing moves on: for a second processor of the lane that fades out in parallel.
   */
  mix(live: LaneOutput, places: Places, left: Float32Array, right: Float32Array, moving: boolean): void {
    left.fill(0);
    right.fill(0);
    for (const entry of this.entries) {
      const { buffer, gain } = entry;
      if (!isAudible(entry)) {
        gain.finish();
        continue;
      }
      if (buffer) {
        buffer.read(places, this.left, this.right, moving);
        this.accumulate(entry, this.left, this.right, left, right, moving);
      } else this.accumulate(entry, live.left, live.right, left, right, moving);
    }
    this.forget();
  }

  private accumulate(
    { weight, gain }: Entry,
    fromLeft: Float32Array | Float64Array,
    fromRight: Float32Array | Float64Array,
    left: Float32Array,
    right: Float32Array,
    moving: boolean,
  ): void {
    for (let i = 0; i < QUANTUM; i++) {
      const share = moving ? gain.next() * weight.next() : gain.value * weight.value;
      left[i] += fromLeft[i] * share;
      right[i] += fromRight[i] * share;
    }
  }

  /** One quantum of a single source, without its gain; false for the live lane and for a missing one. */
  read(id: string, places: Places, left: Float32Array, right: Float32Array): boolean {
    const found = this.entries.find((entry) => entry.id === id);
    if (!found?.buffer) return false;
    found.buffer.read(places, left, right, false);
    return true;
  }

  private add(id: string, buffer: BufferSource | null): void {
    const weight = new Ramp(id === LIVE ? 1 : 0, this.rampFrames);
    this.entries.push({ id, buffer, weight, gain: new Ramp(1, this.rampFrames) });
    this.hear(this.heard);
  }

  /** Drops sources that were removed and have faded out. */
  private forget(): void {
    for (let i = this.entries.length - 1; i >= 0; i--)
      if (this.entries[i].id === '' && !isAudible(this.entries[i])) this.entries.splice(i, 1);
  }
}

function isAudible({ weight }: Entry): boolean {
  return weight.value !== 0 || !weight.resting;
}
