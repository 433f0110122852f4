import { QUANTUM } from '../../core/kernels/layout';
import { readAt, type Places, type StereoBuffer } from './places';
import { Ramp } from './ramp';

/** A source that plays from a buffer: the mix, or anything rendered. A new buffer takes over without a click. */
export class BufferSource {
  private leaving: StereoBuffer | null = null;
  private readonly arrived: Ramp;
  private readonly left = new Float32Array(QUANTUM);
  private readonly right = new Float32Array(QUANTUM);

  constructor(
    private buffer: StereoBuffer,
    rampFrames: number,
  ) {
    this.arrived = new Ramp(1, rampFrames);
  }

  /** Plays another buffer from now on; at once when `heard` is false. */
  replace(buffer: StereoBuffer, heard: boolean): void {
    this.leaving = heard ? this.buffer : null;
    this.buffer = buffer;
    this.arrived.reset(heard ? 0 : 1);
    this.arrived.moveTo(1);
  }

  /** Fills a quantum with what is at some places; with `moving` false a change under way does not move on. */
  read(places: Places, left: Float32Array, right: Float32Array, moving: boolean): void {
    readAt(this.buffer, places, left, right);
    if (!this.leaving || !moving) return;
    readAt(this.leaving, places, this.left, this.right);
    for (let i = 0; i < QUANTUM; i++) {
      const share = this.arrived.next();
      left[i] = this.left[i] + (left[i] - this.left[i]) * share;
      right[i] = this.right[i] + (right[i] - this.right[i]) * share;
    }
    if (this.arrived.resting) this.leaving = null;
  }
}
