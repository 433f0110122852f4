/** A FLAC stream cut into streams of their own at frame boundaries (RFC 9639, sections 8 and 9). */

const MARKER = 0x664c6143;
const MARKER_BYTES = 4;
const BLOCK_HEADER_BYTES = 4;
const STREAMINFO_BYTES = 34;
const LAST_BLOCK = 0x80;
/** Both sync codes begin with it. */
const SYNC = 0xff;
/** Of a stream whose blocks all have one length but the last. */
const FIXED_SYNC = 0xf8;
/** A frame header with its CRC is at most this long. */
const LONGEST_HEADER = 16;

const CRC8 = Uint8Array.from({ length: 256 }, (_, byte) => {
  for (let bit = 0; bit < 8; bit++) byte = byte & 0x80 ? (byte << 1) ^ 0x07 : byte << 1;
  return byte;
});

/** What a FLAC stream says of itself. */
export interface FlacInfo {
  /** Bytes before the first frame. */
  bytes: number;
  /** Audio frames of each block but the last; null in a stream of blocks of different lengths. */
  blockFrames: number | null;
  /** The 34 bytes of STREAMINFO. */
  streamInfo: Uint8Array;
}

/** Whether bytes begin a FLAC stream. */
export function isFlac(bytes: Uint8Array): boolean {
  return bytes.length >= MARKER_BYTES && viewOf(bytes).getUint32(0) === MARKER;
}

/** Reads what is before the first frame; null when it is not all there yet. */
export function readFlacInfo(bytes: Uint8Array): FlacInfo | null {
  const view = viewOf(bytes);
  let streamInfo: Uint8Array | null = null;
  for (let at = MARKER_BYTES; at + BLOCK_HEADER_BYTES <= bytes.length;) {
    const head = view.getUint32(at);
    const end = at + BLOCK_HEADER_BYTES + (head & 0xffffff);
    if (end > bytes.length) return null;
    // The first block is STREAMINFO.
    streamInfo ??= bytes.slice(at + BLOCK_HEADER_BYTES, at + BLOCK_HEADER_BYTES + STREAMINFO_BYTES);
    if (head >>> 24 >= LAST_BLOCK) {
      const info = viewOf(streamInfo);
      const [shortest, longest] = [info.getUint16(0), info.getUint16(2)];
      return { bytes: end, blockFrames: shortest === longest ? longest : null, streamInfo };
    }
    at = end;
  }
  return null;
}

/** Where the frame with a number starts, from a place on; −1 when it is not there. For streams of one block length. */
export function findFlacFrame(bytes: Uint8Array, from: number, number: number): number {
  for (let at = bytes.indexOf(SYNC, from); at >= 0; at = bytes.indexOf(SYNC, at + 1)) {
    if (at + LONGEST_HEADER > bytes.length) return -1;
    if (bytes[at + 1] === FIXED_SYNC && frameNumber(bytes, at) === number) return at;
  }
  return -1;
}

/** A stream of its own with some of the frames, which decode to `count` audio frames. */
export function flacPiece({ streamInfo }: FlacInfo, frames: Uint8Array, count: number): ArrayBuffer {
  const head = MARKER_BYTES + BLOCK_HEADER_BYTES + STREAMINFO_BYTES;
  const piece = new Uint8Array(head + frames.length);
  const view = viewOf(piece);
  view.setUint32(0, MARKER);
  view.setUint32(MARKER_BYTES, LAST_BLOCK * 0x1000000 + STREAMINFO_BYTES);
  const info = MARKER_BYTES + BLOCK_HEADER_BYTES;
  // Up to the sizes of frames, which then follow as unknown, as does the MD5 of the whole.
  piece.set(streamInfo.subarray(0, 4), info);
  piece.set(streamInfo.subarray(10, 14), info + 10);
  piece[info + 13] = (streamInfo[13] & 0xf0) | Math.floor(count / 2 ** 32);
  view.setUint32(info + 14, count >>> 0);
  piece.set(frames, head);
  return piece.buffer;
}

/** Number of the frame whose header is at a place; null when there is none. */
function frameNumber(bytes: Uint8Array, at: number): number | null {
  const [blockSize, rate] = [bytes[at + 2] >> 4, bytes[at + 2] & 0xf];
  if (blockSize === 0 || rate === 0xf || bytes[at + 3] & 1) return null;
  // Coded like UTF-8: the ones at the top of the first byte tell how many bytes there are.
  const first = bytes[at + 4];
  const ones = Math.clz32(~(first << 24));
  const length = ones === 0 ? 1 : ones;
  if (ones === 1 || ones > 7) return null;
  let number = ones === 0 ? first : first & (0x7f >> ones);
  for (let i = 1; i < length; i++) number = number * 64 + (bytes[at + 4 + i] & 0x3f);
  const end = at + 4 + length + (blockSize === 6 ? 1 : blockSize === 7 ? 2 : 0) + (rate === 12 ? 1 : rate > 12 ? 2 : 0);
  let crc = 0;
  for (let i = at; i < end; i++) crc = CRC8[crc ^ bytes[i]];
  return crc === bytes[end] ? number : null;
}

function viewOf(bytes: Uint8Array): DataView {
  return new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
}
