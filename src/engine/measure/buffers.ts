import type { StereoBuffer } from '../sources/places';

/** Of a stereo signal of single precision. */
export const BYTES_PER_FRAME = 8;

/** Rendered buffers of one length within a memory budget; one that is given back is used again. */
export class BufferPool {
  private readonly free: StereoBuffer[] = [];
  private made = 0;

  /** `frames` of each buffer; `budgetBytes` for all of them; `allocate` makes one channel. */
  constructor(
    private readonly frames: number,
    private readonly budgetBytes: number,
    private readonly allocate: (frames: number) => Float32Array,
  ) {}

  /** A buffer to write to; null when the budget is used up. */
  take(): StereoBuffer | null {
    const known = this.free.pop();
    if (known) return known;
    if ((this.made + 1) * this.frames * BYTES_PER_FRAME > this.budgetBytes) return null;
    this.made++;
    return { left: this.allocate(this.frames), right: this.allocate(this.frames) };
  }

  give(buffer: StereoBuffer): void {
    this.free.push(buffer);
  }
}
