import { spawnSync } from 'node:child_process';

/** Runs ffmpeg and gives what it wrote to standard output and error. */
export function ffmpeg(args: string[]): { out: Buffer; said: string } {
  const { status, stdout, stderr } = spawnSync('ffmpeg', ['-hide_banner', '-nostdin', '-y', ...args], {
    maxBuffer: 1 << 29,
  });
  if (status !== 0) throw new Error(`ffmpeg failed: ${stderr.toString()}`);
  return { out: stdout, said: stderr.toString() };
}

/** Integrated loudness (LUFS), range (LU) and true peak (dBTP) of a file by ffmpeg's ebur128 filter. */
export function ebur128(file: string): { integrated: number; range: number; truePeak: number } {
  const { said } = ffmpeg(['-i', file, '-af', 'ebur128=peak=true:framelog=verbose', '-f', 'null', '-']);
  const summary = said.slice(said.lastIndexOf('Summary:'));
  const value = (pattern: RegExp) => Number(pattern.exec(summary)?.[1]);
  return {
    integrated: value(/I:\s+(-?[\d.]+) LUFS/),
    range: value(/LRA:\s+(-?[\d.]+) LU/),
    truePeak: value(/Peak:\s+(-?[\d.]+) dBFS/),
  };
}

/** Samples of a file that is given as bytes, as 32-bit floats, channels by turns. */
export function ffmpegSamples(file: Uint8Array): Float32Array {
  const args = ['-hide_banner', '-v', 'error', '-i', 'pipe:0', '-f', 'f32le', '-'];
  const { status, stdout, stderr } = spawnSync('ffmpeg', args, { input: file, maxBuffer: 1 << 29 });
  if (status !== 0) throw new Error(`ffmpeg failed: ${stderr.toString()}`);
  return new Float32Array(Uint8Array.from(stdout).buffer);
}
