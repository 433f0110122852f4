import { Fft, hann } from '../signal/fft';

/** Frames of a window in which distortion is looked for. */
export const DISTORTION_FRAMES = 4096;
/** Distortion of low frequencies is looked for below this, in Hz. */
const LOW_HZ = 300;
/** Third-octave bands from 100 Hz to 16 kHz. */
const FIRST_BAND = -10;
const LAST_BAND = 12;
/** Distortion below this level in dBFS can't be heard, even when exposed. */
const INAUDIBLE_DBFS = -78;
const FLOOR = 1e-20;

/** Distortion of one third-octave band. */
export interface BandDistortion {
  /** Centre in Hz. */
  hz: number;
  /** dBFS of the track and of the distortion in the band. */
  programmeDbfs: number;
  distortionDbfs: number;
}

/** What a stage added beyond a gain, relative to the track. */
export interface DistortionReading {
  /** dB of all distortion against all of the track; −infinity when there is none. */
  totalDb: number;
  /** The same below 300 Hz. */
  lowDb: number;
  bands: BandDistortion[];
  /** The band in which the distortion comes closest to the track, or exceeds it; null when none can be heard. */
  barest: { hz: number; db: number } | null;
}

const powerDb = (power: number) => (power > FLOOR ? 10 * Math.log10(power) : -Infinity);

/**
 * Finds the part of a stage's output that is not its input times a gain. In each window a gain that may move along a
 * parabola is fitted to each channel by least squares, so that slow movements of a compressor or limiter don't count;
 * what remains is distortion, gathered by third-octaves from the spectrum of a Hann window.
 */
export class DistortionMeter {
  private readonly fft = new Fft(DISTORTION_FRAMES);
  private readonly window = hann(DISTORTION_FRAMES);
  private readonly real = new Float64Array(DISTORTION_FRAMES);
  private readonly imaginary = new Float64Array(DISTORTION_FRAMES);
  /** Programme and distortion of each bin. */
  private readonly programme = new Float64Array(DISTORTION_FRAMES / 2);
  private readonly distortion = new Float64Array(DISTORTION_FRAMES / 2);
  private channels = 0;

  constructor(private readonly sampleRate: number) {}

  get empty(): boolean {
    return this.channels === 0;
  }

  /** Forgets what was gathered. */
  clear(): void {
    this.programme.fill(0);
    this.distortion.fill(0);
    this.channels = 0;
  }

  /**
   * One channel of a window: what went in, in time with what came out; {@link DISTORTION_FRAMES} frames from the starts
   * on.
   */
  add(before: Float32Array | Float64Array, after: Float32Array | Float64Array, beforeStart = 0, afterStart = 0): void {
    const { real, imaginary, window } = this;
    const [a, b, c] = this.fit(before, after, beforeStart, afterStart);
    for (let i = 0; i < DISTORTION_FRAMES; i++) {
      const t = (2 * i) / DISTORTION_FRAMES - 1;
      const linear = (a + (b + c * t) * t) * before[beforeStart + i];
      real[i] = linear * window[i];
      imaginary[i] = (after[afterStart + i] - linear) * window[i];
    }
    // Two real signals in one transform: their spectra are the even and the odd part of what comes out.
    this.fft.transform(real, imaginary);
    for (let k = 1; k < DISTORTION_FRAMES / 2; k++) {
      const m = DISTORTION_FRAMES - k;
      this.programme[k] += ((real[k] + real[m]) ** 2 + (imaginary[k] - imaginary[m]) ** 2) / 4;
      this.distortion[k] += ((imaginary[k] + imaginary[m]) ** 2 + (real[m] - real[k]) ** 2) / 4;
    }
    this.channels++;
  }

  reading(): DistortionReading {
    const binHz = this.sampleRate / DISTORTION_FRAMES;
    // The mean of the window's squares is 3/8, and a full-scale sine reads 0 dBFS.
    const scale = (2 * 2) / ((3 / 8) * DISTORTION_FRAMES * DISTORTION_FRAMES * Math.max(1, this.channels));
    const sum = (of: Float64Array, fromHz: number, toHz: number) => {
      let power = 0;
      const last = Math.min(of.length - 1, Math.floor(toHz / binHz));
      for (let k = Math.max(1, Math.ceil(fromHz / binHz)); k <= last; k++) power += of[k];
      return power * scale;
    };
    const against = (fromHz: number, toHz: number) => {
      const distortion = sum(this.distortion, fromHz, toHz);
      return distortion > FLOOR ? powerDb(distortion / Math.max(FLOOR, sum(this.programme, fromHz, toHz))) : -Infinity;
    };
    const bands: BandDistortion[] = [];
    for (let n = FIRST_BAND; n <= LAST_BAND; n++) {
      const hz = 1000 * 10 ** (n / 10);
      const [from, to] = [hz * 10 ** -0.05, hz * 10 ** 0.05];
      if (to > this.sampleRate / 2) break;
      bands.push({
        hz,
        programmeDbfs: powerDb(sum(this.programme, from, to)),
        distortionDbfs: powerDb(sum(this.distortion, from, to)),
      });
    }
    const heard = bands.filter(({ distortionDbfs }) => distortionDbfs > INAUDIBLE_DBFS);
    const distance = (band: BandDistortion) => band.distortionDbfs - Math.max(INAUDIBLE_DBFS, band.programmeDbfs);
    const barest = heard.length > 0 ? heard.reduce((a, b) => (distance(b) > distance(a) ? b : a)) : null;
    return {
      totalDb: against(0, this.sampleRate / 2),
      lowDb: against(0, LOW_HZ),
      bands,
      barest: barest && { hz: barest.hz, db: distance(barest) },
    };
  }

  /** Coefficients of the gain a + b·t + c·t², t from −1 to 1, by least squares under the window. */
  private fit(
    before: Float32Array | Float64Array,
    after: Float32Array | Float64Array,
    beforeStart: number,
    afterStart: number,
  ): [a: number, b: number, c: number] {
    let [s0, s1, s2, s3, s4, r0, r1, r2] = [FLOOR, 0, FLOOR, 0, FLOOR, 0, 0, 0];
    for (let i = 0; i < DISTORTION_FRAMES; i++) {
      const t = (2 * i) / DISTORTION_FRAMES - 1;
      const x = before[beforeStart + i];
      const w = this.window[i] * x;
      const square = w * x;
      const common = w * after[afterStart + i];
      s0 += square;
      s1 += square * t;
      s2 += square * t * t;
      s3 += square * t * t * t;
      s4 += square * t * t * t * t;
      r0 += common;
      r1 += common * t;
      r2 += common * t * t;
    }
    const determinant = s0 * (s2 * s4 - s3 * s3) - s1 * (s1 * s4 - s2 * s3) + s2 * (s1 * s3 - s2 * s2);
    // Where the window holds a single click no parabola can be told from another.
    if (determinant < 1e-6 * s0 * s2 * s4) return [r0 / s0, 0, 0];
    return [
      (r0 * (s2 * s4 - s3 * s3) - s1 * (r1 * s4 - r2 * s3) + s2 * (r1 * s3 - r2 * s2)) / determinant,
      (s0 * (r1 * s4 - r2 * s3) - r0 * (s1 * s4 - s2 * s3) + s2 * (s1 * r2 - s2 * r1)) / determinant,
      (s0 * (s2 * r2 - s3 * r1) - s1 * (s1 * r2 - s2 * r1) + r0 * (s1 * s3 - s2 * s2)) / determinant,
    ];
  }
}

/** Distortion that comes this close to the track in a third-octave is exposed (our own judgement, no source). */
export const BARE_DB = -12;
/** Distortion below 300 Hz above this, against the track there, is heard as a rattle (our own judgement, no source). */
export const RATTLE_DB = -34;
