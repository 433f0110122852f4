import type { Lane } from '../../core/lane/schema';
import { type MasterSummary, masterSummary } from '../../core/measure/master-summary';
import { packMeasurement } from '../../engine/measure/kept-measurement';
import { LaneMeasurer } from '../../engine/measure/lane-measurer';
import type { Audio, Span } from '../../engine/measure/measurement';
import { decode32 } from '../codecs/decode';
import { decodeImpulses, requireImpulses, type StoredImpulse } from '../impulses/impulses';
import type { AudioStore } from '../store/audio-store';

/** Everything a measurement is made from. */
export interface MeasuringOrder {
  key: string;
  lane: Lane;
  workingHash: string;
  /** Hz */
  sampleRate: number;
  frames: number;
  loudest: Span;
  /** Impulse responses that the lane names. */
  impulses: Record<string, StoredImpulse>;
}

export interface MadeMeasurement {
  summary: MasterSummary;
  /** Null where there are too many to keep. */
  bytes: Uint8Array | null;
}

async function decodeWhole(file: string, frames: number, sampleRate: number): Promise<Audio> {
  const left = new Float32Array(frames);
  const right = new Float32Array(frames);
  let at = 0;
  for await (const chunk of decode32(file))
    for (let i = 0; i + 1 < chunk.length && at < frames; i += 2, at++) {
      left[at] = chunk[i];
      right[at] = chunk[i + 1];
    }
  return { left, right, sampleRate };
}

/** Measures a lane over a whole mix, as a page does. Throws a Problem when an impulse response is missing. */
export async function measureLane(
  store: AudioStore,
  { key, lane, workingHash, sampleRate, frames, loudest, impulses }: MeasuringOrder,
  onProgress: (share: number) => void,
): Promise<MadeMeasurement> {
  const decoded = await decodeImpulses(impulses, (hash) => store.locate(hash), sampleRate);
  requireImpulses(lane, decoded);
  const mix = await decodeWhole(await store.locate(workingHash), frames, sampleRate);
  // Nothing is measured after it: no signal is kept.
  const measurer = new LaneMeasurer(mix, { loudest, keepBytes: 0 });
  decoded.forEach((impulse, name) => measurer.impulses.set(name, impulse));
  const measurement = await measurer.run(lane, {
    turn: (share) => {
      onProgress(share);
      return Promise.resolve();
    },
  });
  return { summary: masterSummary(measurement), bytes: packMeasurement({ key, measurement }) };
}
