import { rm } from 'node:fs/promises';
import { encodeSampleRate, type Encode } from '../../core/deliver/encode';
import { align } from '../../core/measure/alignment';
import { ProgrammeMeter, type ProgrammeFigures } from '../../core/measure/programme-meter';
import { decodeReference, decodeSection } from '../codecs/decode';
import { encodeFile } from '../codecs/encode';

/** Longest passage that an encode is lined up by, and how far off it is looked for, in seconds. */
const PASSAGE_SECONDS = 1.5;
const SEARCH_SECONDS = 0.2;

/** A sound file that is encoded. */
export interface EncodeSource {
  path: string;
  /** Hz */
  sampleRate: number;
  frames: number;
}

export interface CheckedEncode extends Encode {
  figures: ProgrammeFigures;
  /** Frames by which the encode trails its source when it is decoded, at the encode's rate; 0 where nothing can be lined up. */
  delayFrames: number;
  /** Hz */
  sampleRate: number;
}

/** Loudness and peaks of a sound file, lossy or not, at a rate in Hz. Rejects when it can’t be decoded. */
export async function measureProgramme(path: string, sampleRate: number, maxFrames: number): Promise<ProgrammeFigures> {
  const meter = new ProgrammeMeter(sampleRate, maxFrames);
  for await (const chunk of decodeReference(path, 2)) meter.add(chunk);
  return meter.result();
}

/** Frames by which an encode trails its source, found around a second of the source. */
async function delayOf(source: EncodeSource, encode: string, sampleRate: number, second: number): Promise<number> {
  const seconds = source.frames / source.sampleRate;
  const passage = Math.min(PASSAGE_SECONDS, seconds / 2);
  const from = Math.round(Math.max(0, Math.min(second - passage, seconds - passage)) * sampleRate);
  const to = from + Math.round(passage * sampleRate);
  const lead = Math.min(from, Math.round(SEARCH_SECONDS * sampleRate));
  const search = Math.round(SEARCH_SECONDS * sampleRate);
  const sought = await decodeSection(source.path, 2, sampleRate, from, to);
  const field = await decodeSection(encode, 2, sampleRate, from - lead, to + search, 'lossy');
  return align(sought.mid, field.mid, lead)?.offsetFrames ?? 0;
}

/**
 * Encodes a sound file, decodes it again and measures what a listener gets. The encode stays at `target`, for whoever
 * wants to hear it. `loudestSeconds` is where the source is loudest: there both are lined up.
 */
export async function checkEncode(
  source: EncodeSource,
  encode: Encode,
  target: string,
  loudestSeconds: number,
): Promise<CheckedEncode> {
  await encodeFile(source.path, source.sampleRate, encode, target);
  const sampleRate = encodeSampleRate(encode.codec, source.sampleRate);
  const seconds = source.frames / source.sampleRate;
  const [figures, delayFrames] = await Promise.all([
    measureProgramme(target, sampleRate, Math.ceil((seconds + 1) * sampleRate)),
    delayOf(source, target, sampleRate, loudestSeconds),
  ]);
  return { codec: encode.codec, kbps: encode.kbps, figures, delayFrames, sampleRate };
}

/** Checks encodes of a file one after the other; nothing of them is kept. */
export async function checkEncodes(
  source: EncodeSource,
  encodes: readonly Encode[],
  scratch: string,
  onProgress: (share: number) => void = () => {},
): Promise<CheckedEncode[]> {
  const checked: CheckedEncode[] = [];
  if (encodes.length === 0) return checked;
  const { loudestSeconds } = await measureProgramme(source.path, source.sampleRate, source.frames);
  try {
    for (const encode of encodes) {
      checked.push(await checkEncode(source, encode, scratch, loudestSeconds));
      onProgress(checked.length / encodes.length);
    }
    return checked;
  } finally {
    await rm(scratch, { force: true });
  }
}
