/** The highest sample of both channels in each block of a track, in the track's own time. */
export class PeakTrace {
  readonly values: Float32Array;
  private position: number;

  /** `blockFrames` of each value; `late`: frames by which the signal trails the track, of `trackFrames`. */
  constructor(
    private readonly blockFrames: number,
    late: number,
    private readonly trackFrames: number,
  ) {
    this.values = new Float32Array(Math.ceil(trackFrames / blockFrames));
    this.position = -late;
  }

  /** The next frames of both channels. */
  add(left: Float64Array, right: Float64Array): void {
    const { values, blockFrames, trackFrames } = this;
    const first = Math.max(0, -this.position);
    const end = Math.min(left.length, trackFrames - this.position);
    let i = first;
    while (i < end) {
      const block = Math.floor((this.position + i) / blockFrames);
      const stop = Math.min(end, (block + 1) * blockFrames - this.position);
      let most = values[block];
      for (; i < stop; i++) {
        const l = Math.abs(left[i]);
        const r = Math.abs(right[i]);
        if (l > most) most = l;
        if (r > most) most = r;
      }
      values[block] = most;
    }
    this.position += left.length;
  }
}
