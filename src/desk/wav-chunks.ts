import { open, type FileHandle } from 'node:fs/promises';

/** What a WAV or RF64 file says of itself in its chunks. */
export interface WavChunks {
  /** Complaints about the file's form. */
  faults: string[];
  /** The `bext` chunk of EBU Tech 3285; null without one. */
  bext: { version: number; loudness: number; maxTruePeak: number } | null;
}

const MOST_CHUNKS = 200;

async function bytesAt(file: FileHandle, position: number, length: number): Promise<Buffer> {
  const { bytesRead, buffer } = await file.read(Buffer.alloc(length), 0, length, position);
  return buffer.subarray(0, bytesRead);
}

function formFaults(fmt: Buffer, dataBytes: number): string[] {
  if (fmt.length < 16) return ['Its fmt chunk is cut off.'];
  const [channels, rate] = [fmt.readUInt16LE(2), fmt.readUInt32LE(4)];
  const [bytesPerSecond, frameBytes, bits] = [fmt.readUInt32LE(8), fmt.readUInt16LE(12), fmt.readUInt16LE(14)];
  const faults: string[] = [];
  if (frameBytes !== channels * Math.ceil(bits / 8) || bytesPerSecond !== rate * frameBytes)
    faults.push('The sizes in its fmt chunk contradict each other.');
  else if (dataBytes % frameBytes !== 0) faults.push('Its data chunk does not hold whole frames.');
  return faults;
}

/** Reads the chunks of a WAV file (RIFF, or RF64 of EBU Tech 3306). */
export async function readWavChunks(path: string): Promise<WavChunks> {
  const file = await open(path);
  try {
    const { size } = await file.stat();
    const head = await bytesAt(file, 0, 12);
    const form = head.toString('latin1', 0, 4);
    if ((form !== 'RIFF' && form !== 'RF64') || head.toString('latin1', 8, 12) !== 'WAVE')
      return { faults: ['It is no WAV file.'], bext: null };
    const faults: string[] = [];
    let riffBytes = head.readUInt32LE(4);
    let longData: number | null = null;
    let fmt: Buffer | null = null;
    let dataBytes: number | null = null;
    let bext: WavChunks['bext'] = null;
    let at = 12;
    for (let count = 0; at + 8 <= size && count < MOST_CHUNKS; count++) {
      const header = await bytesAt(file, at, 8);
      const name = header.toString('latin1', 0, 4);
      let length = header.readUInt32LE(4);
      if (name === 'ds64') {
        const sizes = await bytesAt(file, at + 8, 16);
        riffBytes = Number(sizes.readBigUInt64LE(0));
        longData = Number(sizes.readBigUInt64LE(8));
      }
      if (name === 'data' && length === 0xffffffff && longData !== null) length = longData;
      if (at + 8 + length > size) faults.push(`Its ${name.trim()} chunk ends after the file does.`);
      if (name === 'fmt ') fmt = await bytesAt(file, at + 8, Math.min(length, 40));
      if (name === 'data') dataBytes = length;
      if (name === 'bext') {
        const chunk = await bytesAt(file, at + 8, 420);
        if (chunk.length < 420) faults.push('Its bext chunk is cut off.');
        else
          bext = {
            version: chunk.readUInt16LE(346),
            loudness: chunk.readInt16LE(412) / 100,
            maxTruePeak: chunk.readInt16LE(416) / 100,
          };
      }
      at += 8 + length + (length % 2);
    }
    if (riffBytes + 8 !== size && faults.length === 0) faults.push('It is longer or shorter than its header says.');
    if (!fmt) faults.push('It has no fmt chunk.');
    if (dataBytes === null) faults.push('It has no data chunk.');
    if (fmt && dataBytes !== null) faults.push(...formFaults(fmt, dataBytes));
    return { faults, bext };
  } finally {
    await file.close();
  }
}
