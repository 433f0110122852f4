import { QUANTUM } from '../../core/kernels/layout';
import type { LaneProcessor } from '../../core/lane/processor';
import type { Channels } from '../../core/measure/peak';
import { PpmMeter, type PpmType } from '../../core/measure/ppm';
import { VuMeter } from '../../core/measure/vu';

/** Frames of each ring; positions are taken modulo this. */
export const INSTRUMENT_FRAMES = 65536;

/** Shared rings with mid and side of one place, and the count of frames written so far. */
export interface InstrumentRing {
  mid: Float32Array;
  side: Float32Array;
  written: Int32Array;
}

export function makeInstrumentRing(): InstrumentRing {
  const channel = () => new Float32Array(new SharedArrayBuffer(INSTRUMENT_FRAMES * Float32Array.BYTES_PER_ELEMENT));
  return { mid: channel(), side: channel(), written: new Int32Array(new SharedArrayBuffer(4)) };
}

/** Where instruments measure: at a joint of the lane, or what is heard. */
export type InstrumentPlace = number | 'heard';

/** What the instruments at one place read. */
export interface InstrumentReading {
  /** dBFS of a steady sine that reads the same, left and right. */
  vuDbfs: Channels;
  ppmDbfs: Channels;
  /** Frames by which what the ring got last leads what is heard. */
  lead: number;
}

/** VU and quasi-peak meter of both channels at one place, in time with what is heard. */
export class Instruments {
  private vu: [VuMeter, VuMeter];
  private ppm: [PpmMeter, PpmMeter];
  private lead = 0;
  private readonly quantum = [new Float32Array(QUANTUM), new Float32Array(QUANTUM)] as const;

  constructor(
    private readonly sampleRate: number,
    private readonly ring: InstrumentRing,
    private place: InstrumentPlace,
    private type: PpmType = 'I',
  ) {
    [this.vu, this.ppm] = this.make();
  }

  /** Goes to another place, or has another kind of quasi-peak meter. */
  choose(place: InstrumentPlace, type: PpmType): void {
    if (place === this.place && type === this.type) return;
    this.place = place;
    this.type = type;
    [this.vu, this.ppm] = this.make();
  }

  /** Where it measures. */
  get at(): InstrumentPlace {
    return this.place;
  }

  /** Takes a quantum at a joint of the running lane; `heard` is the joint that is heard, −1 for none of them. */
  take(lane: LaneProcessor, joint: number, heard: number): void {
    if (joint !== (this.place === 'heard' ? heard : this.place)) return;
    this.lead = Math.min(lane.latency - lane.latencyAt(joint), INSTRUMENT_FRAMES - QUANTUM);
    this.add(lane.left, lane.right);
  }

  /** Takes a quantum of what is heard from a buffer, before its gain and the monitoring. */
  takeHeard(left: Float32Array, right: Float32Array): void {
    if (this.place !== 'heard') return;
    this.lead = 0;
    this.add(left, right);
  }

  reading(): InstrumentReading {
    const { vu, ppm, lead } = this;
    return {
      vuDbfs: [vu[0].levelDbfs, vu[1].levelDbfs],
      ppmDbfs: [ppm[0].levelDbfs, ppm[1].levelDbfs],
      lead,
    };
  }

  private make(): [[VuMeter, VuMeter], [PpmMeter, PpmMeter]] {
    const { sampleRate, type } = this;
    return [
      [new VuMeter(sampleRate), new VuMeter(sampleRate)],
      [new PpmMeter(type, sampleRate), new PpmMeter(type, sampleRate)],
    ];
  }

  /** Both rings get what has just arrived; the needles follow what is heard now. */
  private add(left: Float32Array | Float64Array, right: Float32Array | Float64Array): void {
    const { ring, quantum } = this;
    const start = ring.written[0] % INSTRUMENT_FRAMES;
    for (let i = 0; i < QUANTUM; i++) {
      ring.mid[start + i] = (left[i] + right[i]) / 2;
      ring.side[start + i] = (left[i] - right[i]) / 2;
    }
    ring.written[0] += QUANTUM;
    const heard = start - this.lead + INSTRUMENT_FRAMES;
    for (let i = 0; i < QUANTUM; i++) {
      const at = (heard + i) % INSTRUMENT_FRAMES;
      quantum[0][i] = ring.mid[at] + ring.side[at];
      quantum[1][i] = ring.mid[at] - ring.side[at];
    }
    for (const channel of [0, 1] as const) {
      this.vu[channel].add(quantum[channel]);
      this.ppm[channel].add(quantum[channel]);
    }
  }
}
