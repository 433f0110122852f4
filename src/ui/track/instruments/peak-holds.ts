/** Readings for which a peak is held: about two seconds. */
const HELD = 60;

/** Held peaks of both channels. */
export class PeakHolds {
  private readonly values = [-Infinity, -Infinity];
  private readonly ages = [0, 0];
  private readonly last: unknown[] = [null, null];

  /** The held peak of a channel after a level in dB; `from` tells one reading from the next. */
  hold(channel: 0 | 1, db: number, from: unknown): number {
    const { values, ages, last } = this;
    if (from === last[channel] && db <= values[channel]) return values[channel];
    last[channel] = from;
    if (db >= values[channel] || ++ages[channel] > HELD) {
      values[channel] = db;
      ages[channel] = 0;
    }
    return values[channel];
  }
}
