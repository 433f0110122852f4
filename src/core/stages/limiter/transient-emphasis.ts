import * as layout from '../../kernels/layout';
import { arithmetic } from '../../signal/arithmetic';
import { amplitude } from '../../signal/decibels';
import type { StageContext } from '../definition';

/** Most that a transient is raised, in dB. */
export const EMPHASIS_DB = { off: 0, soft: 1, medium: 2, hard: 3.5 } as const;
export type Emphasis = keyof typeof EMPHASIS_DB;

const FALL_MS = 15;
const SLOW_MS = 40;
const SMOOTH_MS = 0.7;

/** Raises transients, both sides alike: where the level jumps above what it was over the last 40 ms. */
export class TransientEmphasis {
  private readonly state: number;
  private emphasis: Emphasis = 'off';

  constructor(
    private readonly context: Pick<StageContext, 'kernels' | 'sampleRate'>,
    emphasis: Emphasis,
  ) {
    const { kernels, sampleRate } = context;
    this.state = kernels.allocate(layout.EMPH_BYTES);
    const share = (ms: number) => 1 - arithmetic().exp((-1000 * layout.EMPH_LOOK_FRAMES) / (ms * sampleRate));
    this.value(layout.EMPH_FALL, share(FALL_MS));
    this.value(layout.EMPH_SLOW, share(SLOW_MS));
    this.value(layout.EMPH_SMOOTH, share(SMOOTH_MS));
    this.value(layout.EMPH_GAIN, 1);
    this.set(emphasis);
    this.value(layout.EMPH_MOST_NOW, amplitude(EMPHASIS_DB[emphasis]) - 1);
  }

  /** The change is smoothed. */
  set(emphasis: Emphasis): void {
    this.emphasis = emphasis;
    this.value(layout.EMPH_MOST, amplitude(EMPHASIS_DB[emphasis]) - 1);
  }

  process(left: number, right: number, frames: number): void {
    const { f64, run } = this.context.kernels;
    // While nothing is raised, and what was has come back, there is nothing to do.
    if (this.emphasis === 'off' && f64[(this.state + layout.EMPH_MOST_NOW) >> 3] === 0) return;
    // In quanta, at whose ends what is too small is cleared.
    for (let done = 0; done < frames * 8; done += layout.QUANTUM * 8)
      run.emphasis(this.state, left + done, right + done, layout.QUANTUM);
  }

  private value(field: number, value: number): void {
    this.context.kernels.f64[(this.state + field) >> 3] = value;
  }
}
