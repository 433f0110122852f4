import { encodeSampleRate, type Codec, type Encode } from '../../core/deliver/encode';
import { containerOf } from './container';
import { start } from './process';

/** ffmpeg's encoder of each codec, and the container that keeps its delay. */
const ENCODERS: Record<Codec, readonly string[]> = {
  AAC: ['-c:a', 'aac', '-f', 'ipod'],
  MP3: ['-c:a', 'libmp3lame', '-f', 'mp3'],
  Opus: ['-c:a', 'libopus', '-vbr', 'on', '-f', 'ogg'],
  Vorbis: ['-c:a', 'libvorbis', '-f', 'ogg'],
};

/** Encodes a sound file, as a listener gets it. Rejects when its encoder fails. */
export async function encodeFile(file: string, sampleRate: number, { codec, kbps }: Encode, target: string) {
  const { input } = await containerOf(file);
  const rate = encodeSampleRate(codec, sampleRate);
  const filter = rate === sampleRate ? [] : ['-af', `aresample=${rate}:resampler=soxr:precision=33`];
  const { child, finished } = start('ffmpeg', [
    ...[...input, '-map', '0:a:0', '-map_metadata', '-1', ...filter, '-ar', String(rate), '-ac', '2'],
    ...[...ENCODERS[codec], '-b:a', `${kbps}k`, '-bitexact', '-y', `file:${target}`],
  ]);
  child.stdin.end();
  child.stdout.resume();
  await finished;
}
