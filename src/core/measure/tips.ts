/** Seconds of a tip on each side of its top. */
const REACH_SECONDS = 0.0006;
/** Tips that are kept: the highest. */
const KEPT = 24;

/** The top of a wave, with what stands around it; upward, whichever way it pointed. */
export interface Tip {
  /** Samples before and after a stage; the top is in the middle of `before`. */
  before: Float32Array;
  after: Float32Array;
}

/** The tips of a signal at a ceiling. */
export interface TipsReading {
  /** Runs of samples over the ceiling, and the frames of the longest. */
  count: number;
  longestFrames: number;
  /** The highest tips, over the ceiling or not, the highest first. */
  highest: Tip[];
}

interface KeptTip extends Tip {
  size: number;
}

/** Finds the tips of one channel of a signal that enters a stage with a ceiling, and what becomes of them. */
export class TipMeter {
  private readonly reach: number;
  /** The newest samples, of which the last `reach` still lack what follows them. */
  private before = new Float64Array(0);
  private after = new Float64Array(0);
  private kept: KeptTip[] = [];
  private count = 0;
  private longest = 0;
  private run = 0;

  /** The ceiling as an amplitude of what enters. */
  constructor(
    sampleRate: number,
    private readonly ceiling: number,
  ) {
    this.reach = Math.round(REACH_SECONDS * sampleRate);
  }

  /** The next frames before and after the stage, in time with each other. */
  add(before: ArrayLike<number>, after: ArrayLike<number>): void {
    const { reach } = this;
    this.countRuns(before);
    const old = this.before.length;
    const join = (kept: Float64Array, next: ArrayLike<number>) => {
      const joined = new Float64Array(old + next.length);
      joined.set(kept);
      joined.set(next, old);
      return joined;
    };
    const b = join(this.before, before);
    const a = join(this.after, after);
    for (let at = Math.max(reach, old - reach); at < b.length - reach; at++) {
      const size = Math.abs(b[at]);
      if (this.isHigh(size) && isTop(b, at, reach)) this.keep(b, a, at, size);
    }
    const from = Math.max(0, b.length - 2 * reach);
    this.before = b.slice(from);
    this.after = a.slice(from);
  }

  reading(): TipsReading {
    const highest = this.kept.map(({ before, after }) => ({ before, after }));
    return { count: this.count, longestFrames: Math.max(this.longest, this.run), highest };
  }

  private countRuns(before: ArrayLike<number>): void {
    const { ceiling } = this;
    for (let i = 0; i < before.length; i++) {
      if (Math.abs(before[i]) > ceiling) {
        if (this.run++ === 0) this.count++;
      } else if (this.run > 0) {
        this.longest = Math.max(this.longest, this.run);
        this.run = 0;
      }
    }
  }

  private isHigh(size: number): boolean {
    return size > (this.kept.length < KEPT ? 0 : this.kept[KEPT - 1].size);
  }

  private keep(b: Float64Array, a: Float64Array, at: number, size: number): void {
    const sign = Math.sign(b[at]);
    const around = (x: Float64Array) =>
      Float32Array.from(x.subarray(at - this.reach, at + this.reach + 1), (y) => sign * y);
    const place = this.kept.findIndex((tip) => tip.size < size);
    this.kept.splice(place < 0 ? this.kept.length : place, 0, { size, before: around(b), after: around(a) });
    this.kept.length = Math.min(KEPT, this.kept.length);
  }
}

/** Whether no sample within reach is larger, and none before it as large. */
function isTop(x: Float64Array, at: number, reach: number): boolean {
  const size = Math.abs(x[at]);
  for (let i = at - reach; i < at; i++) if (Math.abs(x[i]) >= size) return false;
  for (let i = at + 1; i <= at + reach; i++) if (Math.abs(x[i]) > size) return false;
  return true;
}

/** One reading of several, of other channels or stretches. */
export function mergeTips(readings: readonly TipsReading[]): TipsReading {
  const top = ({ before }: Tip) => before[before.length >> 1];
  return {
    count: readings.reduce((sum, { count }) => sum + count, 0),
    longestFrames: readings.reduce((most, { longestFrames }) => Math.max(most, longestFrames), 0),
    highest: readings
      .flatMap(({ highest }) => highest)
      .sort((x, y) => top(y) - top(x))
      .slice(0, KEPT),
  };
}
