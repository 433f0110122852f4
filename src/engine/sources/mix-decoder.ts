import type { Audio } from '../measure/measurement';
import { findFlacFrame, flacPiece, isFlac, readFlacInfo, type FlacInfo } from './flac-stream';
import { isWave, WAVE_FRAME_BYTES, waveDataStart } from './float-wave';

/** Frames that are decoded at a time, about: a decoder's memory stays small next to the mix. */
const PIECE_FRAMES = 1 << 20;
/** Bytes that wait to be decoded, at first. */
const PENDING_BYTES = 1 << 22;
/** Enough of a file to know its format. */
const FORMAT_BYTES = 64;

/** Decodes a short stereo file of its own; gives its channels. */
export type DecodesPiece = (
  file: ArrayBuffer,
  sampleRate: number,
) => Promise<[left: Float32Array, right: Float32Array]>;

/** The browser's own decoder. */
const inBrowser: DecodesPiece = async (file, sampleRate) => {
  const decoded = await new OfflineAudioContext(2, 1, sampleRate).decodeAudioData(file);
  return [decoded.getChannelData(0), decoded.getChannelData(1)];
};

/**
 * Decodes a working file while it arrives, piece by piece, into shared memory that the worklet and the measuring workers
 * both read. What is not decoded yet is silence.
 */
export class MixDecoder {
  readonly audio: Audio;
  private pending = new Uint8Array(PENDING_BYTES);
  private filled = 0;
  /** Bytes that hold no start of the next piece. */
  private searched = 0;
  private done = 0;
  private flac: FlacInfo | null = null;
  private inWave = false;

  /** `frames` of the whole mix at `sampleRate` in Hz. */
  constructor(
    private readonly frames: number,
    private readonly sampleRate: number,
    private readonly decodes: DecodesPiece = inBrowser,
  ) {
    const channel = () => new Float32Array(new SharedArrayBuffer(frames * Float32Array.BYTES_PER_ELEMENT));
    this.audio = { left: channel(), right: channel(), sampleRate };
  }

  /** Takes the next bytes of the file. Throws an Error with a sentence when they can't be decoded. */
  async push(bytes: Uint8Array): Promise<void> {
    this.keep(bytes);
    const { waiting } = this;
    if (!this.flac && !this.inWave && waiting.length >= FORMAT_BYTES) this.begin(waiting);
    if (this.flac) await this.decodeFlac(this.flac);
    else if (this.inWave) this.takeWave();
  }

  /** The file has ended. Throws an Error with a sentence when it was not the whole mix. */
  async finish(): Promise<Audio> {
    if (this.flac && this.filled > 0) await this.decodePiece(this.flac, this.filled, this.frames - this.done);
    if (this.done !== this.frames) throw undecodable();
    this.pending = new Uint8Array(0);
    return this.audio;
  }

  private get waiting(): Uint8Array {
    return this.pending.subarray(0, this.filled);
  }

  private keep(bytes: Uint8Array): void {
    if (this.filled + bytes.length > this.pending.length) {
      const larger = new Uint8Array(2 * (this.filled + bytes.length));
      larger.set(this.waiting);
      this.pending = larger;
    }
    this.pending.set(bytes, this.filled);
    this.filled += bytes.length;
  }

  private drop(bytes: number): void {
    this.pending.copyWithin(0, bytes, this.filled);
    this.filled -= bytes;
    this.searched = 0;
  }

  private begin(bytes: Uint8Array): void {
    if (isFlac(bytes)) {
      this.flac = readFlacInfo(bytes);
      if (this.flac) this.drop(this.flac.bytes);
    } else if (isWave(bytes)) {
      const start = waveDataStart(bytes);
      if (start === null) return;
      this.inWave = true;
      this.drop(start);
    } else throw undecodable();
  }

  private async decodeFlac(info: FlacInfo): Promise<void> {
    // A stream of blocks of different lengths is decoded as one piece, at its end.
    if (info.blockFrames === null) return;
    const blocks = Math.max(1, Math.floor(PIECE_FRAMES / info.blockFrames));
    const count = blocks * info.blockFrames;
    while (this.done + count < this.frames) {
      const { waiting } = this;
      const next = findFlacFrame(waiting, Math.max(1, this.searched), this.done / info.blockFrames + blocks);
      if (next < 0) {
        this.searched = Math.max(0, waiting.length - FORMAT_BYTES);
        return;
      }
      await this.decodePiece(info, next, count);
    }
  }

  private async decodePiece(info: FlacInfo, bytes: number, count: number): Promise<void> {
    const piece = flacPiece(info, this.pending.subarray(0, bytes), count);
    this.drop(bytes);
    const channels = await this.decodes(piece, this.sampleRate).catch(() => {
      throw undecodable();
    });
    if (channels.some(({ length }) => length !== count)) throw undecodable();
    this.audio.left.set(channels[0], this.done);
    this.audio.right.set(channels[1], this.done);
    this.done += count;
  }

  private takeWave(): void {
    const count = Math.min(Math.floor(this.filled / WAVE_FRAME_BYTES), this.frames - this.done);
    const samples = new Float32Array(this.pending.slice(0, count * WAVE_FRAME_BYTES).buffer);
    const { left, right } = this.audio;
    for (let i = 0, at = this.done; i < count; i++, at++) {
      left[at] = samples[2 * i];
      right[at] = samples[2 * i + 1];
    }
    this.done += count;
    this.drop(count * WAVE_FRAME_BYTES);
  }
}

function undecodable(): Error {
  return new Error('The mix could not be decoded. Reload the page; if it happens again, upload the mix again.');
}
