/** Milliseconds after its start in which a server owes no answer. */
const START_MS = 60_000;
/** Silence of a server that does nothing, after which it has hung; twice as long after each restart for that reason. */
const SILENT_MS = Number(process.env.COPPER_PATIENCE_MS || 20_000);
const SILENT_MOST_MS = 10 * 60_000;
/** Longest silence of a server that works: whoever waits for it is not helped by another that has the same to do. */
const BUSY_MS = 10 * 60_000;
/** Answers this long after a start: the reason for the restarts before it is gone. */
const STEADY_MS = 5 * 60_000;

/** How long a server may be silent. All times are of one clock, in ms. */
export class Patience {
  #startedAt = 0;
  #answeredAt = 0;
  #aliveAt = 0;
  #restarts = 0;

  constructor({ startMs = START_MS, silentMs = SILENT_MS } = {}) {
    this.startMs = startMs;
    this.silentMs = silentMs;
  }

  started(now) {
    this.#startedAt = this.#answeredAt = this.#aliveAt = now + this.startMs;
  }

  answered(now) {
    this.#answeredAt = this.#aliveAt = now;
    if (now - this.#startedAt > STEADY_MS) this.#restarts = 0;
  }

  /** It did not answer, but its main thread runs, or would if it got a core. */
  worked(now) {
    this.#aliveAt = Math.max(this.#aliveAt, now);
  }

  /** Whether it has hung; it is then started again. */
  isOver(now) {
    const silent = Math.min(this.silentMs * 2 ** this.#restarts, SILENT_MOST_MS);
    if (now - this.#aliveAt < silent && now - this.#answeredAt < BUSY_MS) return false;
    this.#restarts++;
    return true;
  }
}
