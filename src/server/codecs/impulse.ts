import type { ImpulseResponse } from '../../core/stages/definition';
import { LONGEST_IMPULSE_SECONDS } from '../../core/stages/room/settings';
import { Problem } from '../problem';
import { decode32Resampled } from './decode';

/**
 * An impulse response at a sample rate in Hz, cut where a room ends, and scaled so that its channels have an energy of
 * 1 on average: a room is then about as loud as the dry sound. Rejects when the file is damaged or silent.
 */
export async function decodeImpulse(file: string, channels: number, sampleRate: number): Promise<ImpulseResponse> {
  const most = Math.round(LONGEST_IMPULSE_SECONDS * sampleRate);
  const chunks: Float32Array[] = [];
  let frames = 0;
  for await (const chunk of decode32Resampled(file, channels, sampleRate)) {
    chunks.push(chunk);
    frames += chunk.length / 2;
    if (frames >= most) break;
  }
  const left = new Float32Array(Math.min(frames, most));
  const right = new Float32Array(left.length);
  let energy = 0;
  let at = 0;
  for (const chunk of chunks) {
    for (let i = 0; i + 1 < chunk.length && at < left.length; i += 2, at++) {
      left[at] = chunk[i];
      right[at] = chunk[i + 1];
      energy += (chunk[i] ** 2 + chunk[i + 1] ** 2) / 2;
    }
  }
  if (!(energy > 0)) throw new Problem(422, 'This impulse response is silent. Choose another file.');
  const scale = 1 / Math.sqrt(energy);
  for (let i = 0; i < left.length; i++) {
    left[i] *= scale;
    right[i] *= scale;
  }
  return { left, right };
}
