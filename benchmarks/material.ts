import { mkdtempSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { LaneProcessor } from '../src/core/lane/processor';
import { LANE_SCHEMA, parseLane, type Lane } from '../src/core/lane/schema';
import { music } from '../tests/support/music';
import { writeWave } from '../tests/support/wave';
import { ffmpeg, medianMs } from './support';

export const RATE = 44100;
export const SECONDS = 240;
export const BLOCK = 1024;
export const RUNS = 5;

/** A lane of stages that are given as kind and settings. */
export function lanes(...stages: unknown[]): Lane {
  return parseLane({ schema: LANE_SCHEMA, stages: stages.map((stage, i) => ({ id: `${i}`, ...(stage as object) })) });
}

export type Material = Awaited<ReturnType<typeof makeMaterial>>;

/** Four minutes of synthetic music as a file and in memory, and ways to run a lane over them. */
export async function makeMaterial() {
  const folder = mkdtempSync(path.join(os.tmpdir(), 'copper-bench-'));
  const file = path.join(folder, 'mix.wav');
  const signal = music(SECONDS, RATE, 0.35);
  writeWave(file, signal, RATE, 16);
  const audio = { left: Float32Array.from(signal.left), right: Float32Array.from(signal.right), sampleRate: RATE };
  const frames = audio.left.length;
  const interleaved = new Float32Array(2 * frames);
  for (let i = 0; i < frames; i++) {
    interleaved[2 * i] = audio.left[i];
    interleaved[2 * i + 1] = audio.right[i];
  }
  const raw = path.join(folder, 'mix.f32');
  writeFileSync(raw, interleaved);
  const blocks = (take: (left: Float32Array, right: Float32Array) => void) => {
    for (let at = 0; at + BLOCK <= frames; at += BLOCK)
      take(audio.left.subarray(at, at + BLOCK), audio.right.subarray(at, at + BLOCK));
  };
  const lane =
    (of: Lane, meterHops: number, silenceFrom = Infinity) =>
    () => {
      const processor = new LaneProcessor(of, { sampleRate: RATE, maxFrames: BLOCK, meterHops });
      let at = 0;
      blocks((a, b) => {
        if (at < silenceFrom) {
          processor.left.set(a);
          processor.right.set(b);
        } else {
          processor.left.fill(0);
          processor.right.fill(0);
        }
        processor.process(BLOCK);
        at += BLOCK;
      });
    };
  return {
    ...{ folder, file, raw, audio, interleaved, blocks, lane },
    /** ms that ffmpeg takes to decode the file. */
    decoding: await medianMs(3, () => ffmpeg(file, 'anull')),
    speed: (ms: number) => `${((SECONDS * 1000) / ms).toFixed(0)} × real time`,
    nanoseconds: (ms: number) => (ms * 1e6) / frames,
    perFrame: (ms: number) => `${((ms * 1e6) / frames).toFixed(1)} ns`,
  };
}
