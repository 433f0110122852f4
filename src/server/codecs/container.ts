import { open, type FileHandle } from 'node:fs/promises';
import { Problem } from '../problem';
import { fileInput } from './process';

/** What can hold lossless audio, and what holds encodes that are only listened to. */
type Lossless = 'WAV' | 'Wave64' | 'AIFF' | 'FLAC' | 'WavPack' | 'CAF' | 'MP4';
type Lossy = 'MP3' | 'AAC' | 'AC-3' | 'Ogg' | 'Matroska' | 'ASF';

/** What a file is, decided by its own bytes, and how a decoder must read it. */
export interface Container {
  name: Lossless | Lossy;
  /** Arguments of ffmpeg and ffprobe that name the demuxer and the file. */
  input: string[];
  /** Frames to stop after, for input that does not know its own end. */
  frames: number | null;
  /** What the header says of the samples where decoders get it wrong; null otherwise. */
  samples: { codec: string; sampleRate: number; channels: number; bits: number } | null;
  /**
   * Bytes of audio that the header announces beyond the end of the file; decoders read what is there without a word.
   */
  missingBytes: number;
  /** Where the contents of its `bext` chunk begin; null without one. */
  bextAt: number | null;
}

/** A sound file has a handful of chunks; a thousand are an attack or a broken writer. */
const MOST_CHUNKS = 1000;
const UNKNOWN_LENGTH = 0xffffffff;
const EXTENSIBLE = 0xfffe;
const PCM = 1;

const NOT_AUDIO = 'This is not a readable audio file. Export the mix as WAV, AIFF or FLAC and try again.';

const NOT_LISTENABLE = 'This is not a readable audio file. Choose another one, such as WAV, FLAC, MP3 or AAC.';

function lossy(name: string): Problem {
  return new Problem(
    422,
    `The file is a lossy encode (${name}), which mastering can’t repair. Ask for the mix as WAV, AIFF or FLAC.`,
  );
}

/** What is taken: mixes and deliveries are lossless, references may be lossy encodes. */
export type Accepts = 'lossless' | 'lossy';

/** Decides from the first bytes of a file what it is. Throws a Problem (422) when it is nothing that is accepted. */
export async function containerOf(file: string, accepts: Accepts = 'lossless'): Promise<Container> {
  const handle = await open(file, 'r');
  try {
    const head = Buffer.alloc(16);
    await handle.read(head, 0, 16, 0);
    const text = (from: number, to: number) => head.toString('latin1', from, to);
    const plain = (name: Container['name'], demuxer: string): Container => ({
      name,
      input: fileInput(demuxer, file),
      frames: null,
      samples: null,
      missingBytes: 0,
      bextAt: null,
    });
    if (/^(RIFF|RF64|BW64)$/.test(text(0, 4)) && text(8, 12) === 'WAVE') return await wave(handle, file);
    if (text(0, 4) === 'FORM' && /^AIF[FC]$/.test(text(8, 12)))
      return { ...plain('AIFF', 'aiff'), missingBytes: await missingOfAiff(handle) };
    if (text(0, 4) === 'fLaC') return plain('FLAC', 'flac');
    if (text(0, 4) === 'wvpk') return plain('WavPack', 'wv');
    if (text(0, 4) === 'caff') return plain('CAF', 'caf');
    if (head.subarray(0, 8).equals(Buffer.from('726966662e91cf11', 'hex'))) return plain('Wave64', 'w64');
    if (text(4, 8) === 'ftyp') return plain('MP4', 'mov');
    const encode = lossyContainer(head);
    if (!encode) throw new Problem(422, accepts === 'lossy' ? NOT_LISTENABLE : NOT_AUDIO);
    if (accepts === 'lossless') throw lossy(encode.name);
    return plain(encode.name, encode.demuxer);
  } finally {
    await handle.close();
  }
}

/** The container of a lossy encode by the first bytes of its file, and the demuxer for it; null for anything else. */
function lossyContainer(head: Buffer): { name: Lossy; demuxer: string } | null {
  const text = head.toString('latin1', 0, 4);
  if (text.startsWith('ID3')) return { name: 'MP3', demuxer: 'mp3' };
  if (text === 'OggS') return { name: 'Ogg', demuxer: 'ogg' };
  if (head.readUInt16BE(0) === 0x0b77) return { name: 'AC-3', demuxer: 'ac3' };
  if (head.readUInt32BE(0) === 0x3026b275) return { name: 'ASF', demuxer: 'asf' };
  if (head.readUInt32BE(0) === 0x1a45dfa3) return { name: 'Matroska', demuxer: 'matroska' };
  if (head[0] !== 0xff || (head[1] & 0xe0) !== 0xe0) return null;
  return (head[1] & 0x06) === 0 ? { name: 'AAC', demuxer: 'aac' } : { name: 'MP3', demuxer: 'mp3' };
}

interface Chunk {
  name: string;
  /** Where its bytes begin. */
  at: number;
  length: number;
}

/** The chunks of a RIFF or AIFF file up to its end. Throws a Problem (422) when there are too many. */
async function* chunks(handle: FileHandle, bigEndian: boolean): AsyncGenerator<Chunk> {
  const { size } = await handle.stat();
  const head = Buffer.alloc(8);
  let at = 12;
  for (let count = 0; at + 8 <= size; count++) {
    if (count >= MOST_CHUNKS)
      throw new Problem(
        422,
        `The file has more than ${MOST_CHUNKS} chunks. Export the mix again as WAV, AIFF or FLAC.`,
      );
    await handle.read(head, 0, 8, at);
    const length = bigEndian ? head.readUInt32BE(4) : head.readUInt32LE(4);
    yield { name: head.toString('latin1', 0, 4), at: at + 8, length };
    at += 8 + length + (length & 1);
  }
}

async function wave(handle: FileHandle, file: string): Promise<Container> {
  const { size } = await handle.stat();
  const format = Buffer.alloc(40);
  let formatLength = 0;
  let longLength: number | null = null;
  let data: Chunk | null = null;
  let bextAt: number | null = null;
  for await (const chunk of chunks(handle, false)) {
    if (chunk.name === 'ds64') {
      const lengths = Buffer.alloc(16);
      await handle.read(lengths, 0, 16, chunk.at);
      longLength = Number(lengths.readBigUInt64LE(8));
    } else if (chunk.name === 'bext') {
      bextAt = chunk.at;
    } else if (chunk.name === 'fmt ') {
      formatLength = Math.min(chunk.length, 40);
      await handle.read(format, 0, formatLength, chunk.at);
    } else if (chunk.name === 'data') {
      if (data)
        throw new Problem(
          422,
          'The WAV file holds two blocks of audio, which programs read differently. Export the mix again.',
        );
      data = chunk;
      // A recorder that could not go back to write the length: everything up to the end is audio.
      if (chunk.length === UNKNOWN_LENGTH) break;
    }
  }
  if (formatLength < 16) throw new Problem(422, NOT_AUDIO);
  if (!data) throw new Problem(422, 'The WAV file ends before its audio starts. Export the mix again.');
  const frameBytes = format.readUInt16LE(12);
  const announced = data.length === UNKNOWN_LENGTH ? longLength : data.length;
  const length = announced ?? size - data.at;
  const missingBytes = Math.max(0, data.at + length - size);
  if (missingBytes === 0 && announced !== null && frameBytes > 0 && length % frameBytes !== 0)
    throw new Problem(
      422,
      'The audio of the WAV file ends in the middle of a sample: something was cut off or added. Export the mix again.',
    );
  const plain = {
    ...({ name: 'WAV', input: fileInput('wav', file), frames: null, samples: null, missingBytes } as const),
    bextAt,
  };
  const channels = format.readUInt16LE(2);
  const validBits = formatLength >= 40 ? format.readUInt16LE(18) : 0;
  const integers = formatLength >= 40 && format.readUInt16LE(0) === EXTENSIBLE && format.readUInt16LE(24) === PCM;
  // 24 valid bits at the top of 32: decoders take these for floats of 24 bits.
  if (!integers || channels === 0 || frameBytes !== channels * 4 || validBits < 1 || validBits >= 32) return plain;
  const sampleRate = format.readUInt32LE(4);
  const raw = ['-ar', String(sampleRate), '-ac', String(channels), '-skip_initial_bytes', String(data.at)];
  return {
    ...plain,
    input: [...raw, ...fileInput('s32le', file)],
    frames: Math.floor((length - missingBytes) / frameBytes),
    samples: { codec: 'pcm_s32le', sampleRate, channels, bits: validBits },
  };
}

async function missingOfAiff(handle: FileHandle): Promise<number> {
  const { size } = await handle.stat();
  for await (const { name, at, length } of chunks(handle, true))
    if (name === 'SSND') return Math.max(0, at + length - size);
  throw new Problem(422, 'The AIFF file ends before its audio starts. Export the mix again.');
}
