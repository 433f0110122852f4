import type { StageContext, StageProcessor } from '../definition';
import { Handover } from '../handover';
import { Bank } from './bank';
import { LinearPhaseFilter } from './linear-phase';
import type { EqualizerSettings } from './settings';

/**
 * Up to sixteen bands in float64; a change crosses over from the old bands to the new ones. In linear phase the still
 * bands are one convolution before those that move.
 */
export class EqualizerProcessor implements StageProcessor<EqualizerSettings> {
  readonly latency: number;
  private readonly linear: LinearPhaseFilter | null;
  private readonly banks: Handover<EqualizerSettings, Bank>;
  private bands: number;

  constructor(context: StageContext, settings: EqualizerSettings) {
    this.linear = settings.phase === 'linear' ? new LinearPhaseFilter(context, settings) : null;
    this.latency = this.linear?.latency ?? 0;
    const bank = () => new Bank(context, this.linear !== null);
    this.banks = new Handover(context, bank(), bank(), settings);
    this.bands = settings.bands.length;
  }

  update(settings: EqualizerSettings): boolean {
    if ((settings.phase === 'linear') !== (this.linear !== null)) return false;
    this.banks.set(settings);
    this.linear?.set(settings);
    this.bands = settings.bands.length;
    return true;
  }

  process(left: number, right: number, frames: number): void {
    this.linear?.process(left, right, frames);
    this.banks.process(left, right, frames);
  }

  takeGainReduction(): number {
    return 0;
  }

  movements(): number[] {
    return Array.from({ length: this.bands }, (_, band) => this.banks.heard.moved(band));
  }
}
