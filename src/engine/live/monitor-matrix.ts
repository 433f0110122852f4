import { QUANTUM } from '../../core/kernels/layout';
import { FADE_SECONDS, Ramp } from '../sources/ramp';
import type { Monitor } from './protocol';

/** Rows: left and right heard; columns: left and right of the signal. */
const MATRICES: Record<Monitor, readonly [number, number, number, number]> = {
  stereo: [1, 0, 0, 1],
  mono: [0.5, 0.5, 0.5, 0.5],
  side: [0.5, -0.5, 0.5, -0.5],
  left: [1, 0, 1, 0],
  right: [0, 1, 0, 1],
  swapped: [0, 1, 1, 0],
  inverted: [1, 0, 0, -1],
};

/** What of the stereo signal is heard on which loudspeaker. */
export class MonitorMatrix {
  private readonly cells: readonly [Ramp, Ramp, Ramp, Ramp];

  constructor(sampleRate: number) {
    const frames = Math.round(FADE_SECONDS * sampleRate);
    const [a, b, c, d] = MATRICES.stereo;
    this.cells = [new Ramp(a, frames), new Ramp(b, frames), new Ramp(c, frames), new Ramp(d, frames)];
  }

  set(monitor: Monitor): void {
    this.cells.forEach((cell, i) => cell.moveTo(MATRICES[monitor][i]));
  }

  /** One quantum in place. */
  process(left: Float32Array, right: Float32Array): void {
    const [a, b, c, d] = this.cells;
    for (let i = 0; i < QUANTUM; i++) {
      const [l, r] = [left[i], right[i]];
      left[i] = l * a.next() + r * b.next();
      right[i] = l * c.next() + r * d.next();
    }
  }
}
