import type { MemoryBudget } from '../sources/memory-budget';
import type { StereoBuffer } from '../sources/places';

/** Of a stereo signal of single precision. */
export const BYTES_PER_FRAME = 8;

/** Rendered buffers of one length within a memory budget; one that is given back is used again. */
export class BufferPool {
  private readonly free: StereoBuffer[] = [];

  /** `frames` of each buffer; `allocate` makes one channel. */
  constructor(
    private readonly frames: number,
    readonly budget: MemoryBudget,
    private readonly allocate: (frames: number) => Float32Array,
  ) {}

  /** A buffer to write to; null when the budget is used up. `makeRoom` gives back what is not needed any longer. */
  take(makeRoom: () => void): StereoBuffer | null {
    const bytes = this.frames * BYTES_PER_FRAME;
    if (this.free.length === 0 && !this.budget.fits(bytes)) makeRoom();
    const known = this.free.pop();
    if (known) return known;
    if (!this.budget.take(bytes)) return null;
    return { left: this.allocate(this.frames), right: this.allocate(this.frames) };
  }

  give(buffer: StereoBuffer): void {
    this.free.push(buffer);
  }

  /** Lets go of the buffers that are not in use. */
  drop(): void {
    this.budget.give(this.free.length * this.frames * BYTES_PER_FRAME);
    this.free.length = 0;
  }
}
