import { Fft, hann } from '../signal/fft';

/** Steady tones that mains leave: 50 or 60 Hz with their multiples. */
export interface Hum {
  frequencyHz: 50 | 60;
  /** dBFS of the strongest of its tones. */
  levelDb: number;
}

const MAINS = [50, 60] as const;
const HARMONICS = [1, 2, 3, 4];
/** The signal is looked at at about this rate in Hz, a second and a half at a time, each window half over the last. */
const LOW_RATE = 1400;
const SIZE = 2048;
/** Taps of the decimating filter for each frame that is left out. */
const TAPS = 16;
/** Mains frequency wanders by this many Hz, times the harmonic; from here to there its neighbours are looked at. */
const WANDER_HZ = 0.15;
const BESIDE_HZ = [1.7, 4] as const;
/** Under loud bass nothing can be told: the windows count in which there is least around the tone, at least so many. */
const QUIETEST_WINDOWS = 0.2;
const LEAST_WINDOWS = 3;
/** Windows quieter than this in dBFS hold nothing at all, and are left out. */
const SILENT_DB = -100;
/** A tone counts where it stands out by so many dB in most of those windows, at one level. */
const STANDS_OUT_DB = 10;
const MOST_WINDOWS = 0.75;
const STEADY_DB = 4;
/** One tone alone has to be clearer. */
const ALONE_DB = 16;
const LOWEST_DB = -90;
/** A hum never stops: in the quietest of the short pieces of a window it is at most so many dB lower. */
const PIECES = 4;
const QUIETEST_PIECES = 0.1;
const LASTING_DB = 8;

/** A tone as it was in a window, what is around it, and the tone in each piece of the window; in dB. */
interface Look {
  level: number;
  around: number;
  pieces: number[];
}

// Taken out once: in a test's sandbox, looking Math up costs more than the function.
const { cos, sin } = Math;
const decibel = (power: number) => 10 * Math.log10(Math.max(1e-20, power));
const sorted = (values: readonly number[]) => [...values].sort((a, b) => a - b);
const quantile = (values: readonly number[], share: number) =>
  sorted(values)[Math.min(values.length - 1, Math.floor(share * values.length))] ?? -Infinity;

/** Looks for steady tones at the mains frequencies over a whole track: exact in frequency, which music is not. */
export class HumMeter {
  private readonly factor: number;
  private readonly rate: number;
  /** Taps of a windowed-sinc low-pass at a third of the low rate. */
  private readonly taps: Float64Array;
  /** Newest frames of both channels, as one row each. */
  private readonly history: [Float64Array, Float64Array];
  private phase = 0;
  private filled = 0;
  private readonly low: [Float64Array, Float64Array];
  private lowCount = 0;
  private readonly fft = new Fft(SIZE);
  private readonly window = hann(SIZE);
  private readonly pieceWindow = hann(SIZE / PIECES);
  private readonly looks = MAINS.map(() => HARMONICS.map((): Look[] => []));

  constructor(sampleRate: number) {
    this.factor = Math.max(1, Math.floor(sampleRate / LOW_RATE));
    this.rate = sampleRate / this.factor;
    const length = TAPS * this.factor;
    const cut = 2 / (3 * this.factor);
    const shape = hann(length);
    const taps = Float64Array.from({ length }, (_, i) => {
      const x = Math.PI * cut * (i - (length - 1) / 2);
      return (Math.abs(x) < 1e-9 ? 1 : Math.sin(x) / x) * shape[i];
    });
    const sum = taps.reduce((a, b) => a + b, 0);
    this.taps = taps.map((tap) => tap / sum);
    this.history = [new Float64Array(2 * length), new Float64Array(2 * length)];
    this.low = [new Float64Array(SIZE), new Float64Array(SIZE)];
  }

  add(left: Float64Array, right: Float64Array, frames: number): void {
    const { taps, history, factor } = this;
    const length = taps.length;
    for (let i = 0; i < frames; i++) {
      // Each frame is kept twice, so that the newest always stand in one piece.
      const at = this.filled;
      history[0][at] = history[0][at + length] = left[i];
      history[1][at] = history[1][at + length] = right[i];
      this.filled = (at + 1) % length;
      if (++this.phase < factor) continue;
      this.phase = 0;
      for (let channel = 0; channel < 2; channel++) {
        const from = history[channel];
        let sum = 0;
        for (let k = 0; k < length; k++) sum += taps[k] * from[this.filled + k];
        this.low[channel][this.lowCount] = sum;
      }
      if (++this.lowCount === SIZE) this.look();
    }
  }

  result(): Hum | null {
    const found = MAINS.map((frequencyHz, m) => {
      const tones = this.looks[m].map(judged);
      const standing = tones.filter(({ stands }) => stands).length;
      const clear = standing >= 2 || tones[0].alone || tones[1].alone;
      return { frequencyHz, levelDb: Math.max(...tones.map(({ level }) => level)), clear };
    }).filter(({ clear }) => clear);
    const [strongest] = found.sort((a, b) => b.levelDb - a.levelDb);
    return strongest ? { frequencyHz: strongest.frequencyHz, levelDb: strongest.levelDb } : null;
  }

  /** Looks at a whole window of both channels, and keeps its second half for the next. */
  private look(): void {
    const [left, right] = this.low;
    const real = left.map((x, i) => x * this.window[i]);
    const imaginary = right.map((x, i) => x * this.window[i]);
    this.lowCount = SIZE / 2;
    this.fft.transform(real, imaginary);
    const power = new Float64Array(SIZE / 2);
    // Both real channels were transformed as one complex signal: their powers add up by symmetry.
    const scale = (4 / SIZE) ** 2 / 4;
    for (let k = 1; k < SIZE / 2; k++) {
      const [a, b, c, d] = [real[k], imaginary[k], real[SIZE - k], imaginary[SIZE - k]];
      power[k] = scale * (a * a + b * b + c * c + d * d);
    }
    if (decibel(power.reduce((most, x) => Math.max(most, x), 0)) >= SILENT_DB) this.note(power);
    for (const channel of this.low) channel.copyWithin(0, SIZE / 2);
  }

  private note(power: Float64Array): void {
    MAINS.forEach((mains, m) =>
      HARMONICS.forEach((harmonic, h) => {
        const bin = (hz: number) => (hz * SIZE) / this.rate;
        const centre = Math.round(bin(mains * harmonic));
        const near = Math.round(bin(WANDER_HZ * harmonic));
        let at = centre - near;
        for (let k = at; k <= centre + near; k++) if (power[k] > power[at]) at = k;
        const beside: number[] = [];
        for (const side of [-1, 1])
          for (let k = bin(BESIDE_HZ[0]); k <= bin(BESIDE_HZ[1]); k++)
            beside.push(power[Math.round(centre + side * k)]);
        // The flank of a note beside it is not a tone of its own.
        const own = power[at] > power[at - 1] && power[at] > power[at + 1];
        const around = decibel(quantile(beside, 0.7));
        const pieces = this.pieces(mains * harmonic);
        this.looks[m][h].push({ level: own ? decibel(power[at]) : -Infinity, around, pieces });
      }),
    );
  }

  /** Level in dB of a frequency in each piece of the window, both channels together. */
  private pieces(hz: number): number[] {
    const frames = SIZE / PIECES;
    const turn = (2 * Math.PI * hz) / this.rate;
    return Array.from({ length: PIECES }, (_, piece) => {
      let power = 0;
      for (const channel of this.low) {
        let [re, im] = [0, 0];
        for (let i = 0; i < frames; i++) {
          const x = channel[piece * frames + i] * this.pieceWindow[i];
          re += x * cos(turn * i);
          im += x * sin(turn * i);
        }
        power += ((4 / frames) ** 2 / 2) * (re * re + im * im);
      }
      return decibel(power);
    });
  }
}

/** Whether a tone is that of mains, from how it was in all windows. */
function judged(looks: readonly Look[]): { level: number; stands: boolean; alone: boolean } {
  const count = Math.max(LEAST_WINDOWS, Math.round(looks.length * QUIETEST_WINDOWS));
  const quiet = [...looks].sort((a, b) => a.around - b.around).slice(0, count);
  const clear = quiet.filter(({ level, around }) => level - around > STANDS_OUT_DB);
  const levels = clear.map(({ level }) => level);
  const level = quantile(levels, 0.5);
  const steady = quantile(levels, 0.9) - quantile(levels, 0.1) < STEADY_DB;
  const lasts =
    quantile(
      quiet.flatMap(({ pieces }) => pieces),
      QUIETEST_PIECES,
    ) >
    level - LASTING_DB;
  const enough = clear.length >= Math.max(2, MOST_WINDOWS * quiet.length);
  const stands = enough && steady && lasts && level > LOWEST_DB;
  const prominence = quantile(
    clear.map(({ level: own, around }) => own - around),
    0.3,
  );
  return { level: stands ? level : -Infinity, stands, alone: stands && prominence > ALONE_DB };
}
