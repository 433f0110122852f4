import type { Kernels } from '../../kernels/host';
import { QUANTUM } from '../../kernels/layout';
import { COMPLEX_BYTES } from '../../kernels/transform';
import { BLOCK_FRAMES, Convolver } from '../convolver';
import type { ImpulseResponse } from '../definition';

/** Blocks of the tail, and the frame of the response where it begins. */
const TAIL_BLOCK_FRAMES = 8192;
const TAIL_FROM = TAIL_BLOCK_FRAMES - BLOCK_FRAMES;

/** Bytes for each frame of a response: its spectra and those of the input, each with its conjugate part, twice as long as they are. */
const BYTES_PER_FRAME = 4 * 2 * COMPLEX_BYTES;

/** Bytes that a convolution with a response needs. */
export function longConvolverBytes({ left }: ImpulseResponse): number {
  return (left.length + 2 * TAIL_BLOCK_FRAMES) * BYTES_PER_FRAME;
}

/**
 * Convolution with a long response: its head in short blocks, for a short latency, and its tail in long ones, for speed
 * (W. Gardner, "Efficient Convolution without Input-Output Delay", JAES 1995; from memory). The tail begins where its own
 * latency has become part of the response.
 */
export class LongConvolver {
  /** Frames by which it trails. */
  static readonly LATENCY = BLOCK_FRAMES;
  private readonly head: Convolver;
  private readonly tail: Convolver | null;
  private readonly tailLeft: number;
  private readonly tailRight: number;

  constructor(
    private readonly kernels: Kernels,
    sampleRate: number,
    response: ImpulseResponse,
  ) {
    const { length } = response.left;
    const part = (from: number, frames: number, blockFrames: number) => {
      const blocks = Math.max(1, Math.ceil(frames / blockFrames));
      const convolver = new Convolver(kernels, sampleRate, blocks * blockFrames, { blockFrames, changes: false });
      load(kernels, convolver, response, from, Math.min(length, from + blocks * blockFrames));
      return convolver;
    };
    this.head = part(0, Math.min(length, TAIL_FROM), BLOCK_FRAMES);
    this.tail = length > TAIL_FROM ? part(TAIL_FROM, length - TAIL_FROM, TAIL_BLOCK_FRAMES) : null;
    this.tailLeft = kernels.allocate(QUANTUM * 8);
    this.tailRight = kernels.allocate(QUANTUM * 8);
  }

  /** One quantum in place, later by a short block. */
  process(left: number, right: number): void {
    const { kernels, tail, tailLeft, tailRight } = this;
    if (tail) {
      kernels.f64.copyWithin(tailLeft >> 3, left >> 3, (left >> 3) + QUANTUM);
      kernels.f64.copyWithin(tailRight >> 3, right >> 3, (right >> 3) + QUANTUM);
      tail.process(tailLeft, tailRight);
    }
    this.head.process(left, right);
    if (tail) kernels.run.add(left, right, tailLeft, tailRight, QUANTUM);
  }
}

/**
 * Puts the frames of a response from one to another in place. With z = left + i·right, each channel by its own response is
 * (l + r)/2 ⊛ z + (l − r)/2 ⊛ z̄.
 */
function load(
  kernels: Kernels,
  convolver: Convolver,
  { left, right }: ImpulseResponse,
  from: number,
  to: number,
): void {
  const { blockFrames, partitions } = convolver;
  const taps = kernels.allocate(blockFrames * COMPLEX_BYTES);
  const values = kernels.view64(taps, 2 * blockFrames);
  for (let block = 0; block < partitions; block++) {
    for (const part of ['direct', 'conjugate'] as const) {
      const sign = part === 'direct' ? 1 : -1;
      values.fill(0);
      for (let i = 0; i < blockFrames; i++) {
        const at = from + block * blockFrames + i;
        if (at < to) values[2 * i] = (left[at] + sign * right[at]) / 2;
      }
      convolver.load(part, block, taps);
    }
  }
  convolver.begin(true, true);
}
