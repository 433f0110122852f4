import { QUANTUM } from '../../kernels/layout';
import { Crossfade } from '../crossfade';
import type { StageContext, StageProcessor } from '../definition';
import { Bank } from './bank';
import { LinearPhaseFilter } from './linear-phase';
import type { EqualizerSettings } from './settings';

/**
 * Up to sixteen bands in float64; a change crosses over from the old bands to the new ones. In linear phase the bands that
 * stand still are one convolution ahead of those that move.
 */
export class EqualizerProcessor implements StageProcessor<EqualizerSettings> {
  readonly latency: number;
  private readonly linear: LinearPhaseFilter | null;
  private bank: Bank;
  private next: Bank;
  private readonly change: Crossfade;
  /** What is to be heard when the change under way is done. */
  private wanted: EqualizerSettings | null = null;
  private bands: number;
  private readonly byBank = (left: number, right: number) => this.bank.process(left, right, QUANTUM);
  private readonly byNext = (left: number, right: number) => this.next.process(left, right, QUANTUM);

  constructor(context: StageContext, settings: EqualizerSettings) {
    this.linear = settings.phase === 'linear' ? new LinearPhaseFilter(context, settings) : null;
    this.latency = this.linear?.latency ?? 0;
    this.bank = new Bank(context);
    this.next = new Bank(context);
    this.change = new Crossfade(context.kernels, context.sampleRate);
    this.bank.set(settings, undefined, this.linear !== null);
    this.bands = settings.bands.length;
  }

  update(settings: EqualizerSettings): boolean {
    if ((settings.phase === 'linear') !== (this.linear !== null)) return false;
    this.wanted = settings;
    this.linear?.set(settings);
    this.bands = settings.bands.length;
    return true;
  }

  process(left: number, right: number, frames: number): void {
    this.linear?.process(left, right, frames);
    let done = 0;
    while (done < frames && (this.change.running || this.wanted)) {
      if (!this.change.running && this.wanted) {
        this.next.set(this.wanted, this.bank, this.linear !== null);
        this.wanted = null;
        this.change.begin();
      }
      if (this.change.process(left + done * 8, right + done * 8, this.byBank, this.byNext)) {
        [this.bank, this.next] = [this.next, this.bank];
      }
      done += QUANTUM;
    }
    if (done < frames) this.bank.process(left + done * 8, right + done * 8, frames - done);
  }

  takeGainReduction(): number {
    return 0;
  }

  movements(): number[] {
    return Array.from({ length: this.bands }, (_, band) => this.bank.moved(band));
  }
}
