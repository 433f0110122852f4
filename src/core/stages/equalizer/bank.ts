import { SECTION_BYTES } from '../../kernels/layout';
import { IDENTITY, type Biquad } from '../../signal/biquad';
import type { StageContext } from '../definition';
import type { Unit } from '../handover';
import { MovingBand } from '../moving-band';
import { clearSection, copySectionState, writeSection } from '../section';
import { bandSections, MOST_SECTIONS } from './design';
import { movingDesign } from './moving-design';
import { effectiveBands, MAX_BANDS, moves, type EqualizerBand, type EqualizerState } from './settings';

const SECTIONS = MAX_BANDS * MOST_SECTIONS;

/**
 * Sections whose leading coefficient is neither small nor large run with b0 = 1, which is faster; their leading
 * coefficients together multiply the input instead.
 */
const UNIT_MOST = 4;

type Pair = 'leftRight' | 'midSide';

/** Which channel of a pair (left and right, or mid and side) a band works on. */
const CHANNELS: Record<EqualizerBand['part'], { pair: Pair; first: boolean; second: boolean }> = {
  stereo: { pair: 'leftRight', first: true, second: true },
  left: { pair: 'leftRight', first: true, second: false },
  right: { pair: 'leftRight', first: false, second: true },
  mid: { pair: 'midSide', first: true, second: false },
  side: { pair: 'midSide', first: false, second: true },
};

/** A section of a still band: its place in the bank, and its coefficients for both channels of its pair. */
interface Placed {
  index: number;
  channels: [first: Biquad, second: Biquad];
}

/**
 * The bands that work on one pair: addresses of the still sections, units first, and the indices of the bands that
 * move.
 */
interface Chain {
  list: number;
  gain: number;
  units: number;
  placed: Placed[];
  moving: number[];
}

function isUnit({ channels }: Placed): boolean {
  return channels.every(({ b0 }) => b0 > 1 / UNIT_MOST && b0 < UNIT_MOST);
}

function withUnitLead({ b0, b1, b2, a1, a2 }: Biquad): Biquad {
  return { b0: 1, b1: b1 / b0, b2: b2 / b0, a1, a2 };
}

/**
 * One setting of the bands: on left and right, then on mid and side; in each pair the still ones as a cascade of
 * second-order sections, then those that move. Each band has its own places, so that another bank can continue from
 * them.
 */
export class Bank implements Unit<EqualizerState> {
  private readonly sections: number;
  private readonly movingBands: MovingBand[];
  private readonly chains: Record<Pair, Chain>;
  /**
   * What the states of each section are multiplied by, for both channels, as the signal there is; 0 for one that is not
   * used.
   */
  private readonly scales = new Float64Array(SECTIONS * 2);
  private readonly moving = new Uint8Array(MAX_BANDS);

  /** `movingOnly` leaves the still bands to another filter. */
  constructor(
    private readonly context: StageContext,
    private readonly movingOnly = false,
  ) {
    const { kernels } = context;
    this.sections = kernels.allocate(SECTIONS * SECTION_BYTES);
    this.movingBands = Array.from({ length: MAX_BANDS }, () => new MovingBand(context));
    const chain = (): Chain => ({
      list: kernels.allocate(SECTIONS * 4),
      gain: kernels.allocate(16),
      units: 0,
      placed: [],
      moving: [],
    });
    this.chains = { leftRight: chain(), midSide: chain() };
  }

  /** Takes the bands of a state; bands that `before` has too continue from there. */
  set(state: EqualizerState, before?: Bank): void {
    const { sampleRate } = this.context;
    const chains = Object.values(this.chains);
    for (const chain of chains) {
      chain.placed.length = 0;
      chain.moving.length = 0;
    }
    this.scales.fill(0);
    this.moving.fill(0);
    effectiveBands(state).forEach((band, b) => {
      const channels = CHANNELS[band.part];
      const { first, second } = channels;
      const chain = this.chains[channels.pair];
      if (moves(band)) {
        const design = movingDesign(band, sampleRate, channels);
        this.movingBands[b].set(design, before?.moving[b] ? before.movingBands[b] : undefined);
        this.moving[b] = 1;
        chain.moving.push(b);
      } else if (!this.movingOnly) {
        bandSections(band, sampleRate).forEach((section, k) =>
          chain.placed.push({
            index: b * MOST_SECTIONS + k,
            channels: [first ? section : IDENTITY, second ? section : IDENTITY],
          }),
        );
      }
    });
    for (const chain of chains) this.lay(chain, before);
  }

  /**
   * Writes the still sections of a chain, units first; from the last to the first, since the later ones scale the
   * earlier.
   */
  private lay(chain: Chain, before?: Bank): void {
    const { u32, f64 } = this.context.kernels;
    const units = chain.placed.filter(isUnit);
    const ordered = [...units, ...chain.placed.filter((each) => !isUnit(each))];
    const gain: [number, number] = [1, 1];
    chain.units = units.length;
    for (let at = ordered.length - 1; at >= 0; at--) {
      const { index, channels } = ordered[at];
      const unit = at < units.length;
      this.write(index, unit ? [withUnitLead(channels[0]), withUnitLead(channels[1])] : channels, gain, before);
      if (unit) channels.forEach(({ b0 }, channel) => (gain[channel] *= b0));
      u32[(chain.list >> 2) + at] = this.sections + index * SECTION_BYTES;
    }
    f64.set(gain, chain.gain >> 3);
  }

  private write(index: number, channels: [Biquad, Biquad], scale: [number, number], before?: Bank): void {
    const { f64 } = this.context.kernels;
    const address = this.sections + index * SECTION_BYTES;
    writeSection(f64, address, ...channels);
    this.scales.set(scale, index * 2);
    if (before?.scales[index * 2]) {
      const ratio = (channel: number) => scale[channel] / before.scales[index * 2 + channel];
      copySectionState(f64, before.sections + index * SECTION_BYTES, address, ratio(0), ratio(1));
    } else clearSection(f64, address);
  }

  process(left: number, right: number, frames: number): void {
    const { run } = this.context.kernels;
    const { leftRight, midSide } = this.chains;
    this.run(leftRight, left, right, frames);
    if (midSide.placed.length === 0 && midSide.moving.length === 0) return;
    run.toMidSide(left, right, frames);
    this.run(midSide, left, right, frames);
    run.toLeftRight(left, right, frames);
  }

  private run({ list, gain, units, placed, moving }: Chain, left: number, right: number, frames: number): void {
    const { run } = this.context.kernels;
    if (placed.length > 0) run.cascade(list, placed.length, units, gain, left, right, frames);
    for (let i = 0; i < moving.length; i++) this.movingBands[moving[i]].process(left, right, frames);
  }

  /** dB by which the gain of a band is moved now; 0 for one that does not move. */
  moved(band: number): number {
    return this.moving[band] ? this.movingBands[band].moved() : 0;
  }
}
