/** Reads WAV and RF64 files of 32-bit float stereo, as working files of float mixes are. */

const RIFF_HEADER_BYTES = 12;
const CHUNK_HEADER_BYTES = 8;
/** A frame: two floats. */
export const WAVE_FRAME_BYTES = 8;
const FLOAT = 3;
const EXTENSIBLE = 0xfffe;

/** Whether bytes begin a WAV or RF64 file. */
export function isWave(bytes: Uint8Array): boolean {
  const name = String.fromCharCode(...bytes.subarray(0, 4));
  return name === 'RIFF' || name === 'RF64';
}

/** Where the samples start; null when that is not there yet. Throws when they are not 32-bit float stereo. */
export function waveDataStart(bytes: Uint8Array): number | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let at = RIFF_HEADER_BYTES; at + CHUNK_HEADER_BYTES + 16 <= bytes.length;) {
    const name = String.fromCharCode(...bytes.subarray(at, at + 4));
    const body = at + CHUNK_HEADER_BYTES;
    if (name === 'data') return body;
    if (name === 'fmt ') {
      const format = view.getUint16(body, true);
      const [channels, bits] = [view.getUint16(body + 2, true), view.getUint16(body + 14, true)];
      if ((format !== FLOAT && format !== EXTENSIBLE) || channels !== 2 || bits !== 32)
        throw new Error('The file is not 32-bit float stereo.');
    }
    const size = view.getUint32(at + 4, true);
    at = body + size + (size % 2);
  }
  return null;
}
