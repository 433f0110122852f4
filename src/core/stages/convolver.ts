import type { Kernels } from '../kernels/host';
import { QUANTUM } from '../kernels/layout';
import { bitReversed, COMPLEX_BYTES, Transform } from '../kernels/transform';
import { Crossfade } from './crossfade';

/** Frames of a block unless said otherwise: a convolver trails by one. */
export const BLOCK_FRAMES = 2048;

/**
 * An impulse response as the spectra of its partitions. With left and right as one complex signal z = left + i·right, it
 * gives direct ⊛ z + conjugate ⊛ z̄, which is every pair of filters with any crossing between the channels.
 */
interface Response {
  direct: number;
  conjugate: number;
  /** Whether the conjugate part is there at all. */
  crossed: boolean;
  /** Sum of products towards the next block, and the block that is being heard (time, in its second half). */
  sum: number;
  output: number;
}

/**
 * Convolves left and right with a long impulse response, in partitions of one block by overlap-save (T. Stockham,
 * "High-speed convolution and correlation", 1966). The work on older blocks is spread over the quanta
 * between two blocks. A new response takes over without a click, on the same past.
 */
export class Convolver {
  readonly blockFrames: number;
  /** Blocks of the impulse response. */
  readonly partitions: number;
  private readonly transform: Transform;
  private readonly input: number;
  private readonly spectra: number;
  private readonly mirror: number;
  /** Spectra of the conjugate input, once a response crosses between the channels; 0 before. */
  private conjugates = 0;
  private heard: Response;
  private next: Response;
  /** `loaded`: sums from the next block on; `running`: its output begins with the next block; `fading`: taking over. */
  private arrival: 'none' | 'loaded' | 'running' | 'fading' = 'none';
  private readonly change: Crossfade;
  /** Quantum within the block, and the place of the newest spectrum. */
  private quantum = 0;
  private newest = 0;
  private readonly byHeard = (left: number, right: number) => this.read(this.heard, left, right);
  private readonly byNext = (left: number, right: number) => this.read(this.next, left, right);

  private readonly size: number;
  private readonly bytes: number;
  private readonly quanta: number;

  /**
   * `taps`, the length of the impulse response, is a multiple of the block, which is a power of two. Without `changes` there
   * is room for one response only.
   */
  constructor(
    private readonly kernels: Kernels,
    sampleRate: number,
    taps: number,
    { blockFrames = BLOCK_FRAMES, changes = true } = {},
  ) {
    this.blockFrames = blockFrames;
    this.size = 2 * blockFrames;
    this.bytes = this.size * COMPLEX_BYTES;
    this.quanta = blockFrames / QUANTUM;
    this.partitions = taps / this.blockFrames;
    this.transform = new Transform(kernels, this.size);
    this.input = kernels.allocate(this.bytes);
    this.spectra = kernels.allocate(this.bytes * this.partitions);
    this.mirror = kernels.allocate(this.size * 4);
    this.heard = this.response();
    this.next = changes ? this.response() : this.heard;
    this.change = new Crossfade(kernels, sampleRate);
    const reversed = bitReversed(this.size);
    for (let k = 0; k < this.size; k++)
      kernels.u32[(this.mirror >> 2) + reversed[k]] = reversed[(this.size - k) % this.size];
  }

  private response(): Response {
    const { kernels, partitions, bytes } = this;
    return {
      direct: kernels.allocate(bytes * partitions),
      conjugate: kernels.allocate(bytes * partitions),
      crossed: false,
      sum: kernels.allocate(bytes),
      output: kernels.allocate(bytes),
    };
  }

  /** Whether a response that was begun has taken over; only then may the next one be loaded. */
  get settled(): boolean {
    return this.arrival === 'none';
  }

  /**
   * Puts partition `index` of the next response in place: {@link blockFrames} complex taps at an address, for the direct or
   * the conjugate part.
   */
  load(part: 'direct' | 'conjugate', index: number, taps: number): void {
    const { f64 } = this.kernels;
    const to = this.next[part] + index * this.bytes;
    const scale = 1 / this.size;
    const values = 2 * this.blockFrames;
    for (let i = 0; i < values; i++) f64[(to >> 3) + i] = f64[(taps >> 3) + i] * scale;
    f64.fill(0, (to >> 3) + values, (to >> 3) + 2 * values);
    this.transform.forward(to);
  }

  /** Spectra of all partitions of the next response, to be kept or put back; a view of the kernels' memory. */
  spectraOf(part: 'direct' | 'conjugate'): Float64Array {
    return this.kernels.view64(this.next[part], 2 * this.size * this.partitions);
  }

  /** Lets the loaded response take over from the next block on; at once, before anything was heard. */
  begin(crossed: boolean, atOnce = false): void {
    this.next.crossed = crossed;
    if (crossed && this.conjugates === 0) this.makeConjugates();
    this.kernels.view64(this.next.sum, this.size * 2).fill(0);
    if (atOnce) [this.heard, this.next] = [this.next, this.heard];
    else this.arrival = 'loaded';
  }

  private makeConjugates(): void {
    this.conjugates = this.kernels.allocate(this.bytes * this.partitions);
    for (let block = 0; block < this.partitions; block++) this.conjugate(block);
  }

  private conjugate(block: number): void {
    const { run } = this.kernels;
    run.conjugated(this.spectra + block * this.bytes, this.conjugates + block * this.bytes, this.mirror, this.size);
  }

  /** One quantum in place. */
  process(left: number, right: number): void {
    const { f64 } = this.kernels;
    const at = (this.input + (this.blockFrames + this.quantum * QUANTUM) * COMPLEX_BYTES) >> 3;
    const l = left >> 3;
    const r = right >> 3;
    for (let i = 0; i < QUANTUM; i++) {
      f64[at + 2 * i] = f64[l + i];
      f64[at + 2 * i + 1] = f64[r + i];
    }
    if (this.arrival === 'fading') {
      if (this.change.process(left, right, this.byHeard, this.byNext)) {
        [this.heard, this.next] = [this.next, this.heard];
        this.arrival = 'none';
      }
    } else this.read(this.heard, left, right);

    const first = 1 + Math.floor((this.quantum * (this.partitions - 1)) / this.quanta);
    const end = 1 + Math.floor(((this.quantum + 1) * (this.partitions - 1)) / this.quanta);
    for (let partition = first; partition < end; partition++) {
      this.add(this.heard, partition, partition - 1);
      if (this.arrival === 'running' || this.arrival === 'fading') this.add(this.next, partition, partition - 1);
    }
    if (++this.quantum === this.quanta) this.turn();
  }

  /** The block is full: transforms it, finishes the sums, and gives the next block to be heard. */
  private turn(): void {
    const { f64 } = this.kernels;
    this.quantum = 0;
    this.newest = (this.newest + 1) % this.partitions;
    const spectrum = (this.spectra + this.newest * this.bytes) >> 3;
    f64.copyWithin(spectrum, this.input >> 3, (this.input + this.bytes) >> 3);
    this.transform.forward(spectrum << 3);
    if (this.conjugates > 0) this.conjugate(this.newest);
    f64.copyWithin(this.input >> 3, (this.input + this.bytes / 2) >> 3, (this.input + this.bytes) >> 3);
    this.finish(this.heard);
    if (this.arrival === 'running' || this.arrival === 'fading') this.finish(this.next);
    if (this.arrival === 'running') {
      this.arrival = 'fading';
      this.change.begin();
    } else if (this.arrival === 'loaded') this.arrival = 'running';
  }

  private finish(response: Response): void {
    const { f64 } = this.kernels;
    this.add(response, 0, 0);
    f64.copyWithin(response.output >> 3, response.sum >> 3, (response.sum + this.bytes) >> 3);
    f64.fill(0, response.sum >> 3, (response.sum + this.bytes) >> 3);
    this.transform.inverse(response.output);
  }

  /** Adds a partition's product with the block that came `age` blocks before the newest. */
  private add({ direct, conjugate, crossed, sum }: Response, partition: number, age: number): void {
    const { run } = this.kernels;
    const block = ((this.newest - age + this.partitions) % this.partitions) * this.bytes;
    run.addProduct(sum, this.spectra + block, direct + partition * this.bytes, this.size);
    if (crossed) run.addProduct(sum, this.conjugates + block, conjugate + partition * this.bytes, this.size);
  }

  private read({ output }: Response, left: number, right: number): void {
    const { f64 } = this.kernels;
    const at = (output + (this.blockFrames + this.quantum * QUANTUM) * COMPLEX_BYTES) >> 3;
    const l = left >> 3;
    const r = right >> 3;
    for (let i = 0; i < QUANTUM; i++) {
      f64[l + i] = f64[at + 2 * i];
      f64[r + i] = f64[at + 2 * i + 1];
    }
  }
}
