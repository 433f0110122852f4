import { IntakeMeter, type IntakeMeasurement } from '../../core/measure/intake';
import { decode32, decodeReference } from '../codecs/decode';
import { MAX_MINUTES } from '../codecs/probe';

/**
 * Measures a file from end to end, `lossy` also one that is an encode; `onProgress` gets the share of `expectedFrames`.
 */
export async function measureFile(
  file: string,
  sampleRate: number,
  channels: number,
  expectedFrames: number,
  onProgress: (share: number) => void = () => {},
  lossy = false,
): Promise<IntakeMeasurement> {
  // A length that is not announced, or is twice what was, bounds the meters' memory no better than the longest mix does.
  const longest = (MAX_MINUTES * 60 + 10) * sampleRate;
  const meter = new IntakeMeter(
    sampleRate,
    expectedFrames > 0 ? Math.min(longest, Math.max(expectedFrames * 2, sampleRate * 10)) : longest,
  );
  let frames = 0;
  for await (const chunk of lossy ? decodeReference(file, channels) : decode32(file, channels)) {
    meter.add(chunk);
    frames += chunk.length / 2;
    onProgress(Math.min(1, frames / Math.max(1, expectedFrames)));
  }
  return meter.result();
}
