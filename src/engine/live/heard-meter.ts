import { Kernels } from '../../core/kernels/host';
import { QUANTUM } from '../../core/kernels/layout';
import { JointMeter } from '../../core/measure/joint-meter';
import { SHORT_TERM_HOPS } from '../../core/measure/loudness-statistics';
import { makePlaces } from '../sources/places';
import type { SourceMixer } from '../sources/source-mixer';
import { PlayedLoudness } from './played-loudness';
import type { Transport } from './transport';

/** Meters the source that is heard when it plays from a buffer. */
export class HeardMeter {
  private readonly kernels = new Kernels();
  private readonly left: number;
  private readonly right: number;
  private readonly places = makePlaces();
  private readonly buffers = [new Float32Array(QUANTUM), new Float32Array(QUANTUM)] as const;
  private source = '';
  readonly meter: JointMeter;
  readonly played = new PlayedLoudness();

  constructor(sampleRate: number) {
    this.left = this.kernels.allocate(QUANTUM * 8);
    this.right = this.kernels.allocate(QUANTUM * 8);
    this.meter = new JointMeter(this.kernels, sampleRate, QUANTUM, SHORT_TERM_HOPS);
  }

  /** The quantum that was taken last, left and right. */
  get quantum(): readonly [left: Float32Array, right: Float32Array] {
    return this.buffers;
  }

  /** Takes one quantum of the mixer's source at the places heard; false when that does not play from a buffer. */
  add(mixer: SourceMixer, transport: Transport, latency: number): boolean {
    const [left, right] = this.buffers;
    transport.remembered(latency, this.places);
    if (!mixer.read(mixer.source, this.places, left, right)) return false;
    if (mixer.source !== this.source) {
      this.source = mixer.source;
      this.played.clear(this.meter.loudness.hopCount);
      this.meter.peak.clear();
    }
    const { f64 } = this.kernels;
    f64.set(left, this.left >> 3);
    f64.set(right, this.right >> 3);
    this.meter.add(this.left, this.right, QUANTUM);
    this.played.follow(this.meter.loudness);
    return true;
  }
}
