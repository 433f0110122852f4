import { butterworthQs } from '../signal/butterworth';
import { Cascade } from '../signal/cascade';
import { decibels } from '../signal/decibels';
import { matched } from '../signal/matched';
import { highPassPrototype, lowPassPrototype, type Prototype } from '../signal/prototype';

/** What matters when a lacquer is cut. Levels are RMS. */
export interface CuttingReading {
  /** Side against mid below 150 Hz, dB, in the second with most bass in the side; −∞ without any. */
  bassSideDb: number;
  /** Highest level of the side in a tenth of a second, dBFS: it moves the stylus up and down. */
  sideDbfs: number;
  /** Highest level from 6 to 12 kHz in a hundredth of a second, dBFS: what burns and what players distort. */
  sibilanceDbfs: number;
}

const BASS_HZ = 150;
const SIBILANCE_HZ = [6000, 12000] as const;
/** Below this in a second, dBFS, bass does not lift a stylus. */
const BASS_MATTERS = 10 ** (-50 / 10);

/** The highest mean square of windows that follow each other. */
class HighestPower {
  private sum = 0;
  private count = 0;
  highest = 0;

  constructor(private readonly frames: number) {}

  add(x: number): void {
    this.sum += x * x;
    if (++this.count < this.frames) return;
    this.highest = Math.max(this.highest, this.sum / this.frames);
    this.sum = 0;
    this.count = 0;
  }

  levelDbfs(): number {
    return decibels(Math.sqrt(this.highest));
  }
}

/** Measures stereo for the cutting of a lacquer. Windows that the end cuts short are left out. */
export class CuttingMeter {
  private readonly low: readonly [mid: Cascade, side: Cascade];
  private readonly high: readonly [left: Cascade, right: Cascade];
  private readonly side: HighestPower;
  private readonly sibilance: readonly [HighestPower, HighestPower];
  private bassMid = 0;
  private bassSide = 0;
  private frames = 0;
  private worstRatio = 0;

  /** `sampleRate` in Hz. */
  constructor(private readonly sampleRate: number) {
    const at = (prototype: (q: number) => Prototype, hertz: number) =>
      butterworthQs(4).map((q) => matched(prototype(q), (2 * Math.PI * hertz) / sampleRate));
    const bass = at(lowPassPrototype, BASS_HZ);
    const band = [...at(highPassPrototype, SIBILANCE_HZ[0]), ...at(lowPassPrototype, SIBILANCE_HZ[1])];
    this.low = [new Cascade(bass), new Cascade(bass)];
    this.high = [new Cascade(band), new Cascade(band)];
    this.side = new HighestPower(Math.round(sampleRate / 10));
    const short = Math.round(sampleRate / 100);
    this.sibilance = [new HighestPower(short), new HighestPower(short)];
  }

  /** Interleaved stereo samples. */
  add(interleaved: Float32Array | Float64Array): void {
    for (let i = 0; i + 1 < interleaved.length; i += 2) {
      const left = interleaved[i];
      const right = interleaved[i + 1];
      const side = (left - right) / 2;
      this.side.add(side);
      this.sibilance[0].add(this.high[0].next(left));
      this.sibilance[1].add(this.high[1].next(right));
      this.bassMid += this.low[0].next((left + right) / 2) ** 2;
      this.bassSide += this.low[1].next(side) ** 2;
      if (++this.frames === this.sampleRate) this.endSecond();
    }
  }

  private endSecond(): void {
    if (this.bassSide / this.frames > BASS_MATTERS)
      this.worstRatio = Math.max(this.worstRatio, this.bassSide / Math.max(this.bassMid, 1e-12));
    this.frames = this.bassMid = this.bassSide = 0;
  }

  result(): CuttingReading {
    return {
      bassSideDb: decibels(Math.sqrt(this.worstRatio)),
      sideDbfs: this.side.levelDbfs(),
      sibilanceDbfs: Math.max(...this.sibilance.map((each) => each.levelDbfs())),
    };
  }
}
