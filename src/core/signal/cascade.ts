import type { Biquad } from './biquad';

/** Second-order sections one after the other, for one signal. */
export class Cascade {
  private readonly state: Float64Array;

  constructor(private readonly sections: readonly Biquad[]) {
    this.state = new Float64Array(sections.length * 2);
  }

  /** The next sample. */
  next(x: number): number {
    const { state, sections } = this;
    let y = x;
    for (let k = 0; k < sections.length; k++) {
      const { b0, b1, b2, a1, a2 } = sections[k];
      const out = b0 * y + state[2 * k];
      state[2 * k] = b1 * y - a1 * out + state[2 * k + 1];
      // Far below any sound: it keeps the state from becoming denormal in silence.
      state[2 * k + 1] = b2 * y - a2 * out + 1e-30;
      y = out;
    }
    return y;
  }
}
