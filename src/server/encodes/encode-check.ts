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
  /** Whether it is stereo floats without a header. */
  raw?: boolean;
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

/** Where a source and its encode are lined up, in frames at the encode's rate. */
interface Passage {
  from: number;
  to: number;
  /** Frames around it in which the encode is looked for. */
  lead: number;
  search: number;
}

function passageOf({ frames, sampleRate: sourceRate }: EncodeSource, sampleRate: number, second: number): Passage {
  const seconds = frames / sourceRate;
  const length = Math.min(PASSAGE_SECONDS, seconds / 2);
  // On a tenth of a second, which is a whole frame at every rate.
  const start = Math.floor(10 * Math.max(0, Math.min(second - length, seconds - length))) / 10;
  const search = Math.round(SEARCH_SECONDS * sampleRate);
  const from = Math.round(start * sampleRate);
  return { from, to: from + Math.round(length * sampleRate), lead: Math.min(from, search), search };
}

/** Measures an encode, and gives the mid signal of the place in it where it is lined up. */
async function readEncode(
  path: string,
  { sampleRate, maxFrames }: { sampleRate: number; maxFrames: number },
  { from, to, lead, search }: Passage,
): Promise<{ figures: ProgrammeFigures; field: Float32Array }> {
  const meter = new ProgrammeMeter(sampleRate, maxFrames);
  const first = from - lead;
  const field = new Float32Array(to + search - first);
  let frame = 0;
  for await (const chunk of decodeReference(path, 2)) {
    meter.add(chunk);
    const frames = chunk.length / 2;
    const end = Math.min(frames, first + field.length - frame);
    for (let i = Math.max(0, first - frame); i < end; i++)
      field[frame + i - first] = (chunk[2 * i] + chunk[2 * i + 1]) / 2;
    frame += frames;
  }
  return { figures: meter.result(), field };
}

/**
 * Decodes the encode of a sound file and measures what a listener gets. `loudestSeconds` is where the source is loudest:
 * there both are lined up.
 */
export async function examineEncode(
  source: EncodeSource,
  encode: Encode,
  target: string,
  loudestSeconds: number,
): Promise<CheckedEncode> {
  const sampleRate = encodeSampleRate(encode.codec, source.sampleRate);
  const seconds = source.frames / source.sampleRate;
  const passage = passageOf(source, sampleRate, loudestSeconds);
  const accepts = source.raw ? { rawRate: source.sampleRate } : 'lossless';
  const [{ figures, field }, sought] = await Promise.all([
    readEncode(target, { sampleRate, maxFrames: Math.ceil((seconds + 1) * sampleRate) }, passage),
    decodeSection(source.path, 2, sampleRate, passage.from, passage.to, accepts),
  ]);
  const delayFrames = align(sought.mid, field, passage.lead)?.offsetFrames ?? 0;
  return { codec: encode.codec, kbps: encode.kbps, figures, delayFrames, sampleRate };
}

/** Encodes a sound file to `target`, where it stays, and examines the encode. */
export async function checkEncode(
  source: EncodeSource,
  encode: Encode,
  target: string,
  loudestSeconds: number,
): Promise<CheckedEncode> {
  await encodeFile(source, encode, target);
  return examineEncode(source, encode, target, loudestSeconds);
}

/** Checks encodes of a file one after the other; nothing of them is kept. */
export async function checkEncodes(
  source: EncodeSource,
  encodes: readonly Encode[],
  scratch: string,
  loudestSeconds: number,
  onProgress: (share: number) => void = () => {},
): Promise<CheckedEncode[]> {
  const checked: CheckedEncode[] = [];
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
