import { QUANTUM } from '../../core/kernels/layout';
import { makePlaces, readAt, type Places, type StereoBuffer } from './places';
import { Ramp } from './ramp';
import { placeOf, SAME_PLACE, seamGain, type SourcePlace } from './source-place';

/** What plays, and where it stands for each frame of the track. */
interface Playing {
  buffer: StereoBuffer;
  place: SourcePlace;
}

/** A source that plays from a buffer: the mix, or anything rendered. A new buffer or place takes over without a click. */
export class BufferSource {
  private playing: Playing;
  private leaving: Playing | null = null;
  private readonly arrived: Ramp;
  private readonly left = new Float32Array(QUANTUM);
  private readonly right = new Float32Array(QUANTUM);
  private readonly own = makePlaces();

  constructor(buffer: StereoBuffer, rampFrames: number) {
    this.playing = { buffer, place: SAME_PLACE };
    this.arrived = new Ramp(1, rampFrames);
  }

  /** Plays another buffer, or from another place, from now on; at once when `heard` is false. */
  replace(next: Partial<Playing>, heard: boolean): void {
    this.leaving = heard ? this.playing : null;
    this.playing = { ...this.playing, ...next };
    this.arrived.reset(heard ? 0 : 1);
    this.arrived.moveTo(1);
  }

  /** Fills a quantum with what is at some places of the track; with `moving` false a change under way does not move on. */
  read(places: Places, left: Float32Array, right: Float32Array, moving: boolean): void {
    this.readOf(this.playing, places, left, right);
    if (!this.leaving || !moving) return;
    this.readOf(this.leaving, places, this.left, this.right);
    for (let i = 0; i < QUANTUM; i++) {
      const share = this.arrived.next();
      left[i] = this.left[i] + (left[i] - this.left[i]) * share;
      right[i] = this.right[i] + (right[i] - this.right[i]) * share;
    }
    if (this.arrived.resting) this.leaving = null;
  }

  private readOf({ buffer, place }: Playing, ofTrack: Places, left: Float32Array, right: Float32Array): void {
    const { own } = this;
    for (let i = 0; i < QUANTUM; i++) {
      const frame = ofTrack.frames[i];
      const at = placeOf(frame, place);
      // Outside the track nothing plays.
      own.frames[i] = frame < 0 ? -1 : at;
      own.gains[i] = ofTrack.gains[i] * seamGain(at, place, QUANTUM);
    }
    readAt(buffer, own, left, right);
  }
}
