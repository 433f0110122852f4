import { Kernels } from '../../core/kernels/host';
import { QUANTUM } from '../../core/kernels/layout';
import { COMPLEX_BYTES } from '../../core/kernels/transform';
import { RESPONSE_SECONDS, type PlaceResponse } from '../../core/elsewhere/response';
import { Convolver } from '../../core/stages/convolver';
import { FADE_SECONDS, Ramp } from '../sources/ramp';

/** Frames of a block of the convolution, and so its latency: 12 ms at 44.1 kHz. */
const BLOCK_FRAMES = 512;
/** Time constants of a loudspeaker that gives way, in seconds. */
const ATTACK_SECONDS = 0.001;
const RELEASE_SECONDS = 0.06;
/** In which one loudspeaker takes the place of another. */
const CHANGE_SECONDS = 0.04;

/** A convolution that runs, and the response that it is given partition by partition, one a quantum. */
class Simulation {
  private readonly kernels = new Kernels();
  private readonly convolver: Convolver;
  private readonly left: Float64Array;
  private readonly right: Float64Array;
  private readonly addresses: readonly [left: number, right: number];
  private readonly taps: number;
  private loading: PlaceResponse | null;
  private loaded = 0;
  private first = true;
  /** Quanta until the first response is heard whole: the block under way, and one more. */
  private filling = (2 * BLOCK_FRAMES) / QUANTUM;
  /** One through the square of the amplitude at which the loudspeaker gives way; 0 for one that does not. */
  private readonly yielding: Ramp;
  private envelope = 0;
  private readonly attack: number;
  private readonly release: number;

  constructor(sampleRate: number, response: PlaceResponse) {
    const { kernels } = this;
    const blocks = Math.ceil((RESPONSE_SECONDS * sampleRate) / BLOCK_FRAMES);
    this.convolver = new Convolver(kernels, sampleRate, blocks * BLOCK_FRAMES, { blockFrames: BLOCK_FRAMES });
    this.addresses = [kernels.allocate(QUANTUM * 8), kernels.allocate(QUANTUM * 8)];
    this.left = kernels.view64(this.addresses[0], QUANTUM);
    this.right = kernels.view64(this.addresses[1], QUANTUM);
    this.taps = kernels.allocate(BLOCK_FRAMES * COMPLEX_BYTES);
    this.loading = response;
    this.yielding = new Ramp(0, Math.round(CHANGE_SECONDS * sampleRate));
    this.attack = 1 - Math.exp(-1 / (ATTACK_SECONDS * sampleRate));
    this.release = 1 - Math.exp(-1 / (RELEASE_SECONDS * sampleRate));
  }

  /** Goes over to another place, as soon as the one before it has arrived. */
  set(response: PlaceResponse): void {
    this.loading = response;
    this.loaded = 0;
  }

  /** Whether anything can be heard yet. */
  get ready(): boolean {
    return this.filling === 0;
  }

  process(left: Float32Array, right: Float32Array): void {
    this.load();
    if (!this.first && this.filling > 0) this.filling--;
    const [atLeft, atRight] = this.addresses;
    this.left.set(left);
    this.right.set(right);
    this.convolver.process(atLeft, atRight);
    this.limit();
    left.set(this.left);
    right.set(this.right);
  }

  /** Puts one partition of the next response in place; after the last it takes over. */
  private load(): void {
    const { loading, convolver, kernels, taps } = this;
    if (!loading || !convolver.settled) return;
    const index = this.loaded++;
    for (const [part, real, imaginary] of [
      ['direct', loading.same, null],
      ['conjugate', null, loading.opposite],
    ] as const) {
      for (let i = 0; i < BLOCK_FRAMES; i++) {
        const at = index * BLOCK_FRAMES + i;
        kernels.f64[(taps >> 3) + 2 * i] = real?.[at] ?? 0;
        kernels.f64[(taps >> 3) + 2 * i + 1] = imaginary?.[at] ?? 0;
      }
      convolver.load(part, index, taps);
    }
    if (this.loaded < convolver.partitions) return;
    convolver.begin(true, this.first);
    this.first = false;
    this.yielding.moveTo(loading.givesWay === null ? 0 : 1 / (loading.givesWay * loading.givesWay));
    this.loading = null;
    this.loaded = 0;
  }

  /** A tiny loudspeaker gives way: its gain falls as 1/√(1 + (level/limit)²). */
  private limit(): void {
    const { yielding, left, right } = this;
    if (yielding.resting && yielding.value === 0) return;
    for (let i = 0; i < QUANTUM; i++) {
      const level = Math.max(Math.abs(left[i]), Math.abs(right[i]));
      this.envelope += (level - this.envelope) * (level > this.envelope ? this.attack : this.release);
      const gain = 1 / Math.sqrt(1 + this.envelope * this.envelope * yielding.next());
      left[i] *= gain;
      right[i] *= gain;
    }
    if (this.envelope < 1e-12) this.envelope = 0;
  }
}

/** A simulated playback place between what is heard and the ear; without one it costs nothing and touches nothing. */
export class Elsewhere {
  private simulation: Simulation | null = null;
  private readonly share: Ramp;
  private readonly dryLeft = new Float32Array(QUANTUM);
  private readonly dryRight = new Float32Array(QUANTUM);
  private wanted = false;

  constructor(private readonly sampleRate: number) {
    this.share = new Ramp(0, Math.round(FADE_SECONDS * sampleRate));
  }

  /** Goes to a place; null: back to what is heard as it is. */
  set(response: PlaceResponse | null): void {
    this.wanted = response !== null;
    if (!response) this.share.moveTo(0);
    else if (this.simulation) this.simulation.set(response);
    else this.simulation = new Simulation(this.sampleRate, response);
  }

  /** One quantum in place. */
  process(left: Float32Array, right: Float32Array): void {
    const { simulation, share, dryLeft, dryRight } = this;
    if (!simulation) return;
    dryLeft.set(left);
    dryRight.set(right);
    simulation.process(left, right);
    if (this.wanted && simulation.ready) share.moveTo(1);
    for (let i = 0; i < QUANTUM; i++) {
      const wet = share.next();
      left[i] = dryLeft[i] + (left[i] - dryLeft[i]) * wet;
      right[i] = dryRight[i] + (right[i] - dryRight[i]) * wet;
    }
    if (!this.wanted && share.resting && share.value === 0) this.simulation = null;
  }
}
