import { QUANTUM } from '../kernels/layout';
import { Crossfade } from './crossfade';
import type { StageContext } from './definition';

/** Something that is set up once and then processes, such as a bank of filters. */
export interface Unit<Settings> {
  /** Takes settings; continues what `before` was doing. */
  set(settings: Settings, before?: this): void;
  /** Processes a block in place; addresses of planar f64 buffers in the kernels' memory. */
  process(left: number, right: number, frames: number): void;
}

/** Two units of a kind: a change of settings crosses over from the one to the other without a click. */
export class Handover<Settings, Each extends Unit<Settings>> {
  private readonly change: Crossfade;
  /** What is to be heard when the change under way is done. */
  private wanted: Settings | null = null;
  private readonly byHeard = (left: number, right: number) => this.heard.process(left, right, QUANTUM);
  private readonly byNext = (left: number, right: number) => this.next.process(left, right, QUANTUM);

  constructor(
    { kernels, sampleRate }: Pick<StageContext, 'kernels' | 'sampleRate'>,
    public heard: Each,
    private next: Each,
    settings: Settings,
  ) {
    this.change = new Crossfade(kernels, sampleRate);
    this.heard.set(settings);
  }

  set(settings: Settings): void {
    this.wanted = settings;
  }

  process(left: number, right: number, frames: number): void {
    let done = 0;
    while (done < frames && (this.change.running || this.wanted)) {
      if (!this.change.running && this.wanted) {
        this.next.set(this.wanted, this.heard);
        this.wanted = null;
        this.change.begin();
      }
      if (this.change.process(left + done * 8, right + done * 8, this.byHeard, this.byNext)) {
        [this.heard, this.next] = [this.next, this.heard];
      }
      done += QUANTUM;
    }
    if (done < frames) this.heard.process(left + done * 8, right + done * 8, frames - done);
  }
}
