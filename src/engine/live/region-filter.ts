import { Kernels } from '../../core/kernels/host';
import { QUANTUM } from '../../core/kernels/layout';
import { DEFAULT_CROSSOVERS } from '../../core/stages/bands/crossovers';
import { EqualizerProcessor } from '../../core/stages/equalizer/processor';
import { equalizerSettings, type EqualizerBand } from '../../core/stages/equalizer/settings';

/** Seconds after which a change of the region is surely over. */
const CHANGE_SECONDS = 0.1;

/** Lets only a region of what is heard pass; without one it touches nothing. */
export class RegionFilter {
  private readonly kernels = new Kernels();
  private readonly equalizer: EqualizerProcessor;
  private readonly left: Float64Array;
  private readonly right: Float64Array;
  private readonly addresses: [left: number, right: number];
  private open = true;
  /** Frames until the filter is out of the way again. */
  private remaining = 0;

  constructor(private readonly sampleRate: number) {
    const { kernels } = this;
    this.addresses = [kernels.allocate(QUANTUM * 8), kernels.allocate(QUANTUM * 8)];
    this.left = kernels.view64(this.addresses[0], QUANTUM);
    this.right = kernels.view64(this.addresses[1], QUANTUM);
    const context = {
      use: 'listening' as const,
      kernels,
      sampleRate,
      maxFrames: QUANTUM,
      crossovers: DEFAULT_CROSSOVERS,
      impulses: new Map(),
    };
    this.equalizer = new EqualizerProcessor(context, equalizerSettings.parse({}));
  }

  /** Bands that make the region; empty for everything. */
  set(bands: EqualizerBand[]): void {
    this.equalizer.update(equalizerSettings.parse({ bands }));
    this.open = bands.length === 0;
    this.remaining = CHANGE_SECONDS * this.sampleRate;
  }

  /** One quantum in place. */
  process(left: Float32Array, right: Float32Array): void {
    if (this.open && this.remaining <= 0) return;
    this.remaining -= QUANTUM;
    this.left.set(left);
    this.right.set(right);
    this.equalizer.process(...this.addresses, QUANTUM);
    left.set(this.left);
    right.set(this.right);
  }
}
