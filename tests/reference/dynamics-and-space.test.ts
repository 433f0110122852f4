// Side by side with ffmpeg's filters of the same kind, in the same run.
import { mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { aligned } from '../support/core';
import { ffmpeg } from '../support/ffmpeg';
import { both, db, noise, sine, type Stereo } from '../support/signals';
import { writeWave } from '../support/wave';

const { abs, exp, max, round, sqrt } = Math;
const RATE = 48000;
let folder: string;
const at = (name: string) => path.join(folder, name);
beforeAll(() => (folder = mkdtempSync(path.join(os.tmpdir(), 'copper-space-'))));
afterAll(() => rmSync(folder, { recursive: true }));

/** A signal after a filter graph of ffmpeg's with one input and one output. */
function byFfmpeg(signal: Stereo, graph: string, ...inputs: string[]): Stereo {
  writeWave(at('in.wav'), signal, RATE, '32f');
  const files = ['in.wav', ...inputs].flatMap((name) => ['-i', at(name)]);
  const { out } = ffmpeg([...files, '-filter_complex', graph, '-f', 'f64le', '-c:a', 'pcm_f64le', '-']);
  const samples = new Float64Array(out.buffer.slice(out.byteOffset, out.byteOffset + out.length - (out.length % 16)));
  const side = (channel: number) =>
    Float64Array.from({ length: samples.length / 2 }, (_, i) => samples[2 * i + channel]);
  return { left: side(0), right: side(1) };
}
/** Level in dBFS (peak) of the last tenth of a second. */
const endLevel = (x: Float64Array) => db(x.slice(-RATE / 10).reduce((most, v) => max(most, abs(v)), 0));

test.each([
  [-30, 4],
  [-18, 4],
  [-8, 4],
  [-8, 10],
  [-3, 2],
])('a steady tone of %f dBFS at %f:1 comes out as from acompressor', (dbfs, ratio) => {
  const tone = both(sine(1000, dbfs, 2, RATE));
  const theirs = byFfmpeg(
    tone,
    `acompressor=threshold=-20dB:ratio=${ratio}:attack=5:release=400:knee=1:detection=peak`,
  );
  const settings = { thresholdDbfs: -20, ratio, kneeDb: 0, attackMs: 5, releaseMs: 400 };
  const ours = aligned(tone, [{ kind: 'compressor', settings }], RATE);
  // Theirs follows the wave a little between its peaks.
  expect(abs(endLevel(ours.left) - endLevel(theirs.left))).toBeLessThan(0.35);
});

test.each([
  [40, [1, 0, 0]],
  [160, [0.5, 0.5, 0]],
  [700, [0, 1, 0]],
  [2500, [0, 0.5, 0.5]],
  [9000, [0, 0, 1]],
])('a tone of %i Hz is parted as by acrossover of the same order', (hz, shares) => {
  const tone = both(sine(hz, -20, 2, RATE));
  shares.forEach((share, band) => {
    const outputs = ['[a]', '[b]', '[c]'];
    const others = outputs.filter((_, i) => i !== band).map((name) => `${name}anullsink`);
    const graph = [`acrossover=split=160 2500:order=4th${outputs.join('')}`, ...others, `${outputs[band]}anull`].join(
      ';',
    );
    const theirs = db(10 ** (endLevel(byFfmpeg(tone, graph).left) / 20) / 0.1);
    // One band alone: the others are turned down as far as they go, which leaves what is 12 dB less.
    const alone = aligned(
      tone,
      [
        {
          kind: 'bandDynamics',
          settings: { bands: [0, 1, 2, 3, 4].map((i) => ({ makeupDb: i === band ? 12 : -12 })) },
        },
      ],
      RATE,
      1024,
      { crossovers: { frequenciesHz: [160, 2500] } },
    );
    const expected = db(10 ** (12 / 20) * 10 ** (theirs / 20) + 10 ** (-12 / 20) * (1 - 10 ** (theirs / 20)));
    if (share > 0.4) expect(abs(endLevel(alone.left) + 20 - expected)).toBeLessThan(0.3);
    else expect(theirs).toBeLessThan(-15);
  });
});

test('a room is what afir makes of the same response', () => {
  const taps = 7000;
  const tail = (seed: number) => noise(taps, 0.02, seed).map((x, i) => x * exp((-4 * i) / taps));
  const response = { left: tail(3), right: tail(4) };
  writeWave(at('response.wav'), response, RATE, '32f');
  const signal = { left: noise(RATE, 0.2, 5), right: noise(RATE, 0.2, 6) };
  // The filter scales its response unless told not to.
  const theirs = byFfmpeg(signal, '[0][1]afir=gtype=none:maxir=1', 'response.wav');
  const settings = { impulse: 'file', file: 'x', wetDb: 0, preDelayMs: 0, highPassHz: 20, lowPassHz: 20000 };
  const single = { left: Float32Array.from(response.left), right: Float32Array.from(response.right) };
  const ours = aligned(signal, [{ kind: 'room', settings }], RATE, 1024, { impulses: new Map([['x', single]]) });
  // Theirs comes at a delay of its own: the best agreement at any of the first thousands of frames counts.
  const wet = ours.left.map((x, i) => x - signal.left[i]);
  const from = RATE / 2;
  const span = 4000;
  const energy = (x: Float64Array, start: number) => x.subarray(start, start + span).reduce((sum, v) => sum + v * v, 0);
  let best = 0;
  for (let delay = 0; delay < 16000 && from + delay + span < theirs.left.length; delay++) {
    let common = 0;
    for (let i = 0; i < span; i++) common += wet[from + i] * theirs.left[from + delay + i];
    best = max(best, common / sqrt(energy(wet, from) * energy(theirs.left, from + delay)));
  }
  // Up to a gain of its own, and to the wet sound's filters, which turn the phase a little at both ends.
  expect(best).toBeGreaterThan(0.95);
});

test.each([0, 0.5, 1.5])('a width of %f is that of stereotools', (width) => {
  const signal = { left: noise(RATE, 0.3, 1), right: noise(RATE, 0.3, 2) };
  const theirs = byFfmpeg(signal, `stereotools=slev=${max(0.015625, width)}`);
  const widthsPercent = new Array<number>(5).fill(round(100 * width));
  const ours = aligned(signal, [{ kind: 'stereo', settings: { widthsPercent } }], RATE);
  const side = ({ left, right }: Stereo) => left.reduce((sum, x, i) => sum + (x - right[i]) ** 2, 0);
  const middle = ({ left, right }: Stereo) => left.reduce((sum, x, i) => sum + (x + right[i]) ** 2, 0);
  expect(middle(ours) / middle(theirs)).toBeCloseTo(1, 4);
  if (width > 0) expect(side(ours) / side(theirs)).toBeCloseTo(1, 4);
  else expect(side(ours)).toBeLessThan(1e-20);
});
