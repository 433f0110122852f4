import { stat } from 'node:fs/promises';
import { IntakeMeter, type IntakeMeasurement } from '../../core/measure/intake';
import { decode32 } from '../codecs/decode';

/** Measures a decoded file from end to end; `onProgress` gets the share of `expectedFrames`. */
export async function measureFile(
  file: string,
  sampleRate: number,
  channels: number,
  expectedFrames: number,
  onProgress: (share: number) => void = () => {},
): Promise<IntakeMeasurement> {
  // The announced length may be wrong: what a file can hold at all bounds the meters' memory instead.
  const { size } = await stat(file);
  const meter = new IntakeMeter(
    sampleRate,
    Math.min(Math.max(expectedFrames * 2, sampleRate * 10), Math.max(size * 64, sampleRate * 10)),
  );
  let frames = 0;
  for await (const chunk of decode32(file, channels)) {
    meter.add(chunk);
    frames += chunk.length / 2;
    onProgress(Math.min(1, frames / Math.max(1, expectedFrames)));
  }
  return meter.result();
}
