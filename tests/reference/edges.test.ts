// Edges in the finished file, against ffmpeg's atrim and afade: ffmpeg-filters(1). Where the sound rings on, against the lane alone.
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { LevelPasses } from '@/engine/measure/level-passes';
import { LaneMeasurer } from '@/engine/measure/lane-measurer';
import { LANE_SCHEMA, parseLane, type Lane } from '@/core/lane/schema';
import { edgesSchema, EdgeGain, type FadeShape } from '@/core/sequence/edges';
import { render } from '@/server/render/render';
import { runLane } from '@/server/render/lane-run';
import { aligned } from '../support/core';
import { ebur128, ffmpeg, ffmpegSamples } from '../support/ffmpeg';
import { music } from '../support/music';
import { noise } from '../support/signals';
import { writeWave } from '../support/wave';

const RATE = 48000;
const SECONDS = 4;
const signal = music(SECONDS, RATE);
const frames = signal.left.length;
let folder: string;
let mix: string;
beforeAll(() => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'copper-edges-'));
  mix = path.join(folder, 'mix.wav');
  writeWave(mix, signal, RATE, '32f');
});
afterAll(() => rmSync(folder, { recursive: true }));

const laneOf = (edges: object | undefined, ...stages: { kind: string; settings: object }[]): Lane =>
  parseLane({ schema: LANE_SCHEMA, stages: stages.map((stage, i) => ({ id: `${i}`, ...stage })), edges });

/** A float file of a lane, as a delivery makes it: its path and its samples. */
async function delivered(lane: Lane, input = mix): Promise<{ file: string; samples: Float32Array }> {
  const file = path.join(folder, 'out.wav');
  await render({
    ...{ input, output: file, scratch: path.join(folder, 'scratch'), lane, frames, channels: 2 },
    ...{ inputRate: RATE, inputBits: 32, outputRate: RATE, levelDb: 0, depth: '32f', dither: 'none', format: 'WAV' },
    ...{ guardDbtp: null, onProgress: () => {} },
  });
  return { file, samples: ffmpegSamples(readFileSync(file)) };
}

function greatestDifference(a: Float32Array, b: Float32Array): number {
  expect(a.length).toBe(b.length);
  return a.reduce((most, x, i) => (most > Math.abs(x - b[i]) ? most : Math.abs(x - b[i])), 0);
}

const CURVES: Partial<Record<FadeShape, string>> = { linear: 'tri', equalPower: 'qsin', sCurve: 'hsin' };

test.each(Object.entries(CURVES))(
  'start, end and a fade “%s” are those of ffmpeg, to the sample',
  async (shape, curve) => {
    const [start, end, up, down] = [7919, 150_001, 12_345, 33_333];
    const edges = {
      ...{ startSeconds: start / RATE, endSeconds: end / RATE },
      ...{ fadeIn: { seconds: up / RATE, shape }, fadeOut: { seconds: down / RATE, shape } },
    };
    const { samples } = await delivered(laneOf(edges));
    const fades = `afade=t=in:ss=0:ns=${up}:curve=${curve},afade=t=out:ss=${end - start - down}:ns=${down}:curve=${curve}`;
    const filter = `atrim=start_sample=${start}:end_sample=${end},asetpts=PTS-STARTPTS,${fades}`;
    const { out } = ffmpeg(['-i', mix, '-af', filter, '-f', 'f32le', '-']);
    expect(greatestDifference(samples, new Float32Array(Uint8Array.from(out).buffer))).toBeLessThan(3e-7);
  },
);

test('silence is added to the sample, also before the start of the mix, and the samples between stay as they are', async () => {
  const edges = { startSeconds: 0, endSeconds: 2, silenceBeforeSeconds: 0.3, silenceAfterSeconds: 1.25 };
  const { samples } = await delivered(laneOf(edges));
  expect(samples.length).toBe(2 * RATE * (0.3 + 2 + 1.25));
  const [before, after] = [0.6 * RATE, 4.6 * RATE].map(Math.round);
  expect(samples.subarray(0, before).every((x) => x === 0)).toBe(true);
  expect(samples.subarray(after).every((x) => x === 0)).toBe(true);
  const own = ffmpegSamples(readFileSync(mix));
  expect(greatestDifference(samples.subarray(before, after), own.subarray(0, 2 * 2 * RATE))).toBe(0);
});

test('silence before a later start is silent too: nothing of what was cut comes back', async () => {
  const { samples } = await delivered(laneOf({ startSeconds: 1, endSeconds: 2, silenceBeforeSeconds: 0.5 }));
  expect(samples.length).toBe(2 * 1.5 * RATE);
  expect(samples.subarray(0, RATE).every((x) => x === 0)).toBe(true);
});

const ROOM = { kind: 'room', settings: { impulse: 'studio', wetDb: -12 } };
const LINEAR_PHASE = {
  kind: 'equalizer',
  settings: { phase: 'linear', bands: [{ shape: 'highPass', frequencyHz: 40, slopeDbPerOctave: 24 }] },
};

test.each([
  ['a room', ROOM],
  ['a linear-phase equalizer', LINEAR_PHASE],
])('what %s rings on after the end is kept until it is silent, and never chopped', async (_, stage) => {
  const end = 2 * RATE;
  const edges = edgesSchema.parse({ endSeconds: end / RATE });
  const { samples } = await delivered(laneOf(edges, stage));
  const gain = new EdgeGain(edges, RATE, frames);
  const cut = (x: Float64Array) =>
    Float64Array.from({ length: 14 * RATE }, (__, i) => (i < end ? Math.fround(x[i]) * gain.at(i) : 0));
  const whole = aligned({ left: cut(signal.left), right: cut(signal.right) }, [stage], RATE);
  const [length, fade] = [samples.length / 2, 0.02 * RATE];
  expect(length).toBeGreaterThan(end + 100);
  for (let i = 0; i < length - fade; i++)
    if (Math.abs(samples[2 * i] - whole.left[i]) > 1e-6) throw new Error(`Frame ${i} differs.`);
  // What is left out is below a step of 16 bits, and the last sample is nearly nothing.
  const rest = whole.left.subarray(length);
  expect(rest.every((x) => Math.abs(x) < 1.6e-5)).toBe(true);
  expect(Math.abs(samples[samples.length - 2])).toBeLessThan(1e-6);
});

test('the figures before delivery are those of the finished file', async () => {
  const limiter = { kind: 'limiter', settings: { inputGainDb: 6 } };
  const edges = { startSeconds: 0.7, endSeconds: 3.1, fadeIn: { seconds: 0.5 }, fadeOut: { seconds: 1 } };
  const lane = laneOf(edges, limiter);
  const audio = { left: Float32Array.from(signal.left), right: Float32Array.from(signal.right), sampleRate: RATE };
  const { master } = await new LaneMeasurer(audio).run(lane, { turn: () => Promise.resolve() });
  const { file } = await delivered(lane);
  expect(Math.abs(master.integratedLufs - ebur128(file).integrated)).toBeLessThan(0.1);
  for (const moved of [0, 1]) {
    const passed = await new LevelPasses(audio, new Map(), moved).measure(lane);
    expect(passed).toMatchObject({ integratedLufs: master.integratedLufs, truePeakDbtp: master.truePeakDbtp });
  }
});

test('a fade below the last step of the word length is dithered, and a cut alone keeps every bit', async () => {
  const flat = path.join(folder, 'flat.wav');
  writeWave(flat, { left: noise(frames, 0.2), right: noise(frames, 0.2) }, RATE, 24);
  const file = path.join(folder, 'flat-out.wav');
  const made = (edges: object) =>
    render({
      ...{ input: flat, output: file, scratch: path.join(folder, 'scratch'), lane: laneOf(edges), frames, channels: 2 },
      ...{ inputRate: RATE, inputBits: 24, outputRate: RATE, levelDb: 0, depth: 24, dither: 'TPDF', format: 'WAV' },
      ...{ guardDbtp: null, onProgress: () => {} },
    });
  expect((await made({ startSeconds: 1, endSeconds: 2 })).dither).toBe('none');
  const cut = ffmpegSamples(readFileSync(file));
  expect(cut).toEqual(ffmpegSamples(readFileSync(flat)).subarray(2 * RATE, 4 * RATE));
  expect((await made({ startSeconds: 1, fadeIn: { seconds: 1 } })).dither).toBe('TPDF');
});

test('edges after the end of a mix are refused in words', async () => {
  const options = { input: mix, channels: 2, inputRate: RATE, frames, lane: laneOf({ startSeconds: 5 }) };
  await expect(runLane(options, path.join(folder, 'none'))).rejects.toThrow(
    'The edges start after this mix has ended. Set them again for this mix.',
  );
});
