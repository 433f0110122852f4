import { KERNEL_BASE64 } from './binary';
import { ANNEX2_PHASES, EIGHTH_PHASES, FINE_PHASES } from './interpolator';
import { HALF_TAPS, TAPS } from './layout';

/** Functions of the compiled kernels; addresses are byte offsets into the instance's memory. */
export interface KernelExports {
  HEAP_BASE: WebAssembly.Global;
  sin(x: number): number;
  cos(x: number): number;
  exp(x: number): number;
  log(x: number): number;
  pow(x: number, y: number): number;
  gain(state: number, left: number, right: number, frames: number): void;
  movingGain(state: number, left: number, right: number, frames: number): void;
  crossfade(state: number, left: number, right: number, otherLeft: number, otherRight: number, frames: number): void;
  add(left: number, right: number, otherLeft: number, otherRight: number, frames: number): void;
  mix(matrix: number, left: number, right: number, frames: number): void;
  toPairs(left: number, right: number, pairs: number, frames: number): void;
  toPlanar(pairs: number, left: number, right: number, frames: number): void;
  addPairs(pairs: number, other: number, frames: number): void;
  mixPairs(pairs: number, own: number, other: number, frames: number): void;
  sumsOfPairs(pairs: number, gain: number, frames: number): void;
  products(pairs: number, frames: number, out: number): void;
  toMidSide(left: number, right: number, frames: number): void;
  toLeftRight(mid: number, side: number, frames: number): void;
  bounded(left: number, right: number, frames: number, most: number): void;
  toSingle(x: number, out: number, frames: number): void;
  cascade(list: number, count: number, units: number, gain: number, left: number, right: number, frames: number): void;
  dither(state: number, x: number, out: number, frames: number): void;
  dynamics(state: number, detected: number, pairs: number): void;
  copy(x: number, out: number, frames: number): void;
  delay(ring: number, size: number, position: number, late: number, x: number, frames: number): void;
  crossover(state: number, pairs: number, low: number, high: number, frames: number): void;
  section(state: number, pairs: number, frames: number): void;
  dynamicBand(state: number, left: number, right: number, frames: number): void;
  forwardTransform(x: number, size: number, twiddles: number): void;
  inverseTransform(x: number, size: number, twiddles: number): void;
  addProduct(sum: number, x: number, h: number, size: number): void;
  conjugated(x: number, out: number, mirror: number, size: number): void;
  kWeightedEnergy(state: number, left: number, right: number, frames: number): void;
  truePeak(state: number, x: number, frames: number, onLevel: number, onBend: number): void;
  upsample(x: number, out: number, taps: number, count: number, late: number, frames: number): void;
  downsample(
    x: number,
    even: number,
    odd: number,
    out: number,
    taps: number,
    count: number,
    late: number,
    frames: number,
  ): void;
  upsampleAllPass(
    state: number,
    count: number,
    left: number,
    right: number,
    outLeft: number,
    outRight: number,
    frames: number,
  ): void;
  downsampleAllPass(
    state: number,
    count: number,
    held: number,
    left: number,
    right: number,
    outLeft: number,
    outRight: number,
    frames: number,
  ): void;
  toDouble(x: number, out: number, frames: number): void;
  extremes(left: number, right: number, frames: number, out: number): void;
  widen(left: number, right: number, frames: number, out: number): void;
  saturate(state: number, x: number, frames: number): void;
  clip(state: number, x: number, frames: number): void;
  limiter(state: number, left: number, right: number, frames: number, onLevel: number, onBend: number): void;
  fineTable(): number;
  annex2Table(): number;
  eighthsTable(): number;
  emphasis(state: number, left: number, right: number, frames: number): void;
}

const BASE64_ALPHABET = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';

/** Decoded by hand, since an audio worklet has no atob. */
function decodeBase64(text: string): Uint8Array<ArrayBuffer> {
  const length = (text.length * 3) / 4 - (text.endsWith('==') ? 2 : text.endsWith('=') ? 1 : 0);
  const bytes = new Uint8Array(length);
  let bits = 0;
  let held = 0;
  let at = 0;
  for (let i = 0; at < length; i++) {
    bits = (bits << 6) | BASE64_ALPHABET.indexOf(text[i]);
    held += 6;
    if (held >= 8) {
      held -= 8;
      bytes[at++] = (bits >> held) & 255;
    }
  }
  return bytes;
}

const PAGE_BYTES = 65536;
/** Room for several linear-phase stages at 192 kHz; what is not touched takes no memory. */
const MEMORY_BYTES = 128 * 1024 * 1024;

let compiled: WebAssembly.Module | undefined;

/** What bounds interpolated points: times the loudest sample, and times the sharpest bend, of their window. */
export type PeakBounds = readonly [onLevel: number, onBend: number];

/**
 * Bounds of an interpolator. Every tap but the newest, whose bend is not known yet, reads its sample as the average
 * (1, 2, 1)/4 around it and what that leaves, the bend; f32 rounding included.
 */
export function peakBounds(phases: readonly (readonly number[])[]): PeakBounds {
  const size = (taps: readonly number[]) => taps.reduce((sum, tap) => sum + Math.abs(tap), 0);
  const room = 1.0001;
  const each = phases
    .flatMap((taps) => [taps, [...taps].reverse()])
    .map((taps) => {
      const known = taps.slice(0, -1);
      const averaged = Array.from(
        { length: taps.length + 1 },
        (_, i) => ((known[i] ?? 0) + 2 * (known[i - 1] ?? 0) + (known[i - 2] ?? 0)) / 4,
      );
      return [size(averaged) + Math.abs(taps[taps.length - 1]), size(known)];
    });
  return [room * Math.max(...each.map(([level]) => level)), room * Math.max(...each.map(([, bend]) => bend))];
}

export const FINE_BOUNDS = peakBounds(FINE_PHASES);
export const LIMITER_BOUNDS = peakBounds([...FINE_PHASES, ...EIGHTH_PHASES, ...ANNEX2_PHASES]);

/** One instance of the kernels with its own fixed memory; a lane or a set of meters owns one and is dropped with it. */
export class Kernels {
  readonly run: KernelExports;
  readonly f64: Float64Array;
  readonly f32: Float32Array;
  readonly u32: Uint32Array;
  readonly i32: Int32Array;
  private readonly bottom: number;
  private top: number;

  /** `extraBytes` beyond what a lane commonly needs. Throws when there can be no such memory. */
  constructor(readonly extraBytes = 0) {
    compiled ??= new WebAssembly.Module(decodeBase64(KERNEL_BASE64));
    const pages = Math.ceil((MEMORY_BYTES + extraBytes) / PAGE_BYTES);
    const memory = new WebAssembly.Memory({ initial: pages, maximum: pages });
    this.run = new WebAssembly.Instance(compiled, { env: { memory } }).exports as unknown as KernelExports;
    const { buffer } = memory;
    this.f64 = new Float64Array(buffer);
    this.f32 = new Float32Array(buffer);
    this.u32 = new Uint32Array(buffer);
    this.i32 = new Int32Array(buffer);
    this.bottom = this.top = (Number(this.run.HEAP_BASE.value) + 63) & ~63;
    this.writeTables();
  }

  /** Address of `bytes` zeroed bytes, aligned to 64. Throws when the memory is full. */
  allocate(bytes: number): number {
    const address = this.top;
    this.top += (bytes + 63) & ~63;
    if (this.top > this.f64.byteLength)
      throw new Error('The lane needs more memory than a lane may have: remove a stage.');
    return address;
  }

  /**
   * The same memory, zeroed and free again, for what comes next; what was made with it before must no longer be used. An
   * instance of its own for each run would fill a page's address space before the browser collects them.
   */
  cleared(): this {
    new Uint8Array(this.f64.buffer).fill(0, this.bottom, this.top);
    this.top = this.bottom;
    return this;
  }

  /** Float64 view of `length` values at an address. */
  view64(address: number, length: number): Float64Array {
    return this.f64.subarray(address >> 3, (address >> 3) + length);
  }

  private writeTables(): void {
    const splat = (address: number, values: number[]) =>
      values.forEach((value, i) => this.f32.fill(value, (address >> 2) + i * 4, (address >> 2) + i * 4 + 4));
    const [, quarter, half] = FINE_PHASES;
    const fine = Array.from({ length: HALF_TAPS }, (_, k) => {
      const mirrored = quarter[TAPS - 1 - k];
      return [(quarter[k] + mirrored) / 2, (quarter[k] - mirrored) / 2, half[k]];
    });
    splat(this.run.fineTable(), fine.flat());
    // Even and odd parts of two phases that mirror two others.
    const parts = (phases: readonly (readonly number[])[]) =>
      Array.from({ length: phases[0].length / 2 }, (_, k) =>
        phases.flatMap((taps) => {
          const mirrored = taps[taps.length - 1 - k];
          return [(taps[k] + mirrored) / 2, (taps[k] - mirrored) / 2];
        }),
      ).flat();
    splat(this.run.eighthsTable(), parts(EIGHTH_PHASES));
    splat(this.run.annex2Table(), parts(ANNEX2_PHASES));
  }
}
