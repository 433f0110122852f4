import { FileMeter, type FileMeasurement } from '../../core/measure/file-meter';
import { IntakeMeter, type IntakeMeasurement } from '../../core/measure/intake';
import { decode32, decodeReference } from '../codecs/decode';
import { MAX_MINUTES } from '../codecs/probe';

/** A file that is measured. */
export interface MeasuredFile {
  path: string;
  /** Hz */
  sampleRate: number;
  channels: number;
  expectedFrames: number;
  /** Whether it may be a lossy encode. */
  lossy?: boolean;
}

/** A length that is not announced, or is twice what was, bounds the meters' memory no better than the longest mix does. */
function mostFrames({ sampleRate, expectedFrames }: MeasuredFile): number {
  const longest = (MAX_MINUTES * 60 + 10) * sampleRate;
  return expectedFrames > 0 ? Math.min(longest, Math.max(expectedFrames * 2, sampleRate * 10)) : longest;
}

async function measure<Meter extends FileMeter>(
  meter: Meter,
  { path, channels, expectedFrames, lossy = false }: MeasuredFile,
  onProgress: (share: number) => void,
): Promise<Meter> {
  let frames = 0;
  for await (const chunk of lossy ? decodeReference(path, channels) : decode32(path, channels)) {
    meter.add(chunk);
    frames += chunk.length / 2;
    onProgress(Math.min(1, frames / Math.max(1, expectedFrames)));
  }
  return meter;
}

/** Loudness, peaks, silence and bits of a file, from end to end. Rejects when it can’t be decoded. */
export async function measureFile(
  file: MeasuredFile,
  onProgress: (share: number) => void = () => {},
): Promise<FileMeasurement> {
  return (await measure(new FileMeter(file.sampleRate, mostFrames(file)), file, onProgress)).result();
}

/** Everything intake looks at in a mix, from end to end. Rejects when it can’t be decoded. */
export async function measureMix(
  file: MeasuredFile,
  onProgress: (share: number) => void = () => {},
): Promise<IntakeMeasurement> {
  return (await measure(new IntakeMeter(file.sampleRate, mostFrames(file)), file, onProgress)).result();
}
