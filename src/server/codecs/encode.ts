import { once } from 'node:events';
import { encodeSampleRate, type Codec, type Encode } from '../../core/deliver/encode';
import { containerOf } from './container';
import { rawFloatInput } from './decode';
import { start, type Running } from './process';

/** ffmpeg's encoder of each codec, and the container that keeps its delay. */
const ENCODERS: Record<Codec, readonly string[]> = {
  // Its errors are as large as those of the slower coder, which takes three times as long.
  AAC: ['-c:a', 'aac', '-aac_coder', 'fast', '-f', 'ipod'],
  MP3: ['-c:a', 'libmp3lame', '-f', 'mp3'],
  Opus: ['-c:a', 'libopus', '-vbr', 'on', '-f', 'ogg'],
  Vorbis: ['-c:a', 'libvorbis', '-f', 'ogg'],
};

function startEncoder(input: string[], sampleRate: number, { codec, kbps }: Encode, target: string): Running {
  const rate = encodeSampleRate(codec, sampleRate);
  const filter = rate === sampleRate ? [] : ['-af', `aresample=${rate}:resampler=soxr:precision=33`];
  const running = start('ffmpeg', [
    ...[...input, '-map', '0:a:0', '-map_metadata', '-1', ...filter, '-ar', String(rate), '-ac', '2'],
    ...[...ENCODERS[codec], '-b:a', `${kbps}k`, '-bitexact', '-y', `file:${target}`],
  ]);
  running.child.stdout.resume();
  return running;
}

/** Encodes a sound file, or raw stereo floats, as a listener gets it. Rejects when its encoder fails. */
export async function encodeFile(
  { path, raw, sampleRate }: { path: string; raw?: boolean; sampleRate: number },
  encode: Encode,
  target: string,
): Promise<void> {
  const input = raw ? rawFloatInput({ rawRate: sampleRate }, `file:${path}`) : (await containerOf(path)).input;
  const { child, finished } = startEncoder(input, sampleRate, encode, target);
  child.stdin.end();
  await finished;
}

/** An encoder that takes samples as they come. */
export interface Encoder {
  /** Interleaved stereo float32 as bytes. Rejects when the encoder has failed. */
  write(bytes: Uint8Array): Promise<void>;
  /** Resolves when the encode is whole. */
  end(): Promise<void>;
  /** Stops it, however far it is. */
  kill(): void;
}

/** Starts to encode samples at a rate in Hz, as a listener gets them. */
export function encoderOf(sampleRate: number, encode: Encode, target: string): Encoder {
  const { child, finished } = startEncoder(
    rawFloatInput({ rawRate: sampleRate }, 'pipe:0'),
    sampleRate,
    encode,
    target,
  );
  return {
    async write(bytes) {
      if (!child.stdin.write(bytes)) await Promise.race([once(child.stdin, 'drain'), finished]);
    },
    async end() {
      child.stdin.end();
      await finished;
    },
    kill: () => void child.kill('SIGKILL'),
  };
}
