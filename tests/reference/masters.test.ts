// What a render makes of the last bits, of true peaks and of full scale, looked at from outside.
// Errors of independent dither add up in power: n generations of TPDF make 0.5·√n LSB rms (Vanderkooy and Lipshitz; from memory).
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { ebur128, ffmpeg } from '../support/ffmpeg';
import { music } from '../support/music';
import { both, db, noise, sine, type Stereo } from '../support/signals';
import { annex2TruePeak } from '../support/true-peak';
import { writeWave } from '../support/wave';

const { abs, max, sqrt, sign } = Math;
const RATE = 44100;
let folder: string;
const at = (name: string) => path.join(folder, name);
beforeAll(() => (folder = mkdtempSync(path.join(os.tmpdir(), 'copper-masters-'))));
afterAll(() => rmSync(folder, { recursive: true }));

function render(from: string, to: string, stages: object[], ...args: string[]) {
  writeFileSync(
    at('lane.json'),
    JSON.stringify({ schema: 1, stages: stages.map((stage, i) => ({ id: `${i}`, ...stage })) }),
  );
  const command = ['render', at(from), at(to), '--lane', at('lane.json'), ...args];
  const { status, stderr } = spawnSync('scripts/command', command, { encoding: 'utf8' });
  return { status, stderr };
}
const trim = (gainDb: number) => ({ kind: 'trim', settings: { gainDb } });

function read(name: string): Stereo {
  const bytes = ffmpeg(['-i', at(name), '-f', 'f64le', '-c:a', 'pcm_f64le', '-']).out;
  const all = new Float64Array(Uint8Array.from(bytes).buffer);
  const side = (offset: number) => Float64Array.from({ length: all.length / 2 }, (_, i) => all[2 * i + offset]);
  return { left: side(0), right: side(1) };
}
const LSB = 1 / 32768;
const rms = (x: Float64Array) => sqrt(x.reduce((sum, v) => sum + v * v, 0) / x.length);
const correlation = (x: Float64Array, y: Float64Array) =>
  x.reduce((sum, v, i) => sum + v * y[i], 0) / x.length / (rms(x) * rms(y));

test('dither of three generations adds up as independent dither does; files and sides have dither of their own', () => {
  const gainDb = -0.1;
  const gain = 10 ** (gainDb / 20);
  const original = { left: noise(60_000, 0.3, 1), right: noise(60_000, 0.3, 2) };
  const other = { left: noise(60_000, 0.3, 3), right: noise(60_000, 0.3, 4) };
  writeWave(at('0.wav'), original, RATE, '32f');
  writeWave(at('other.wav'), other, RATE, '32f');
  const errors = (name: string, of: Stereo, generation: number) => {
    const made = read(name);
    const error = (side: 'left' | 'right') =>
      made[side].map((x, i) => (x - Math.fround(of[side][i]) * gain ** generation) / LSB);
    return { left: error('left'), right: error('right') };
  };
  for (const [generation, expected] of [
    [1, 0.5],
    [2, 0.5 * sqrt(2)],
    [3, 0.5 * sqrt(3)],
  ] as const) {
    const { status, stderr } = render(`${generation - 1}.wav`, `${generation}.wav`, [trim(gainDb)], '--depth', '16');
    expect([status, stderr]).toEqual([0, '']);
    const { left, right } = errors(`${generation}.wav`, original, generation);
    expect(abs(rms(left) - expected)).toBeLessThan(0.02);
    expect(abs(rms(right) - expected)).toBeLessThan(0.02);
    expect(abs(correlation(left, right))).toBeLessThan(0.02);
  }
  render('other.wav', 'other-1.wav', [trim(gainDb)], '--depth', '16');
  render('0.wav', 'flac.flac', [trim(gainDb)], '--depth', '16');
  const first = errors('1.wav', original, 1);
  expect(abs(correlation(first.left, errors('other-1.wav', other, 1).left))).toBeLessThan(0.02);
  // The same sound for another file: its own dither, so the errors do not add up when both are mixed.
  expect(correlation(first.left, errors('flac.flac', original, 1).left)).toBeLessThan(0.5);
});

test('what lies on the grid already is not dithered', () => {
  const signal = { left: noise(20_000, 0.3, 5), right: noise(20_000, 0.3, 6) };
  writeWave(at('sixteen.wav'), signal, RATE, 16);
  render(
    'sixteen.wav',
    'inverted.wav',
    [{ kind: 'stereo', settings: { invertLeft: true, invertRight: true } }],
    '--depth',
    '16',
  );
  const [before, after] = [read('sixteen.wav'), read('inverted.wav')];
  expect(after.left.every((x, i) => x === -before.left[i])).toBe(true);
  expect(after.right.every((x, i) => x === -before.right[i])).toBe(true);
});

test.each([
  ['square', (i: number) => 0.97 * sign(Math.sin((2 * Math.PI * 3011 * i) / 48000 + 0.1))],
  ['clipped noise', (i: number) => max(-0.9, Math.min(0.9, 3 * WHITE[i]))],
])('the ceiling holds at another rate for a %s, by both meters, however far it is over', (_, sample) => {
  const side = Float64Array.from({ length: 96_000 }, (_, i) => sample(i));
  writeWave(at('hot.wav'), both(side), 48000);
  // The samples are held, what lies between them is not: the conversion brings it out.
  const limiter = { kind: 'limiter', settings: { ceilingDbtp: -1, detection: 'sample' } };
  expect(render('hot.wav', 'plain.wav', [], '--rate', '44100', '--clip').status).toBe(0);
  expect(ebur128(at('plain.wav')).truePeak).toBeGreaterThan(0.3);
  expect(render('hot.wav', 'held.wav', [limiter], '--rate', '44100')).toEqual({ status: 0, stderr: '' });
  // ffmpeg's interpolation reads what lies just below the Nyquist frequency, as noise does, 0.2 dB higher.
  expect(ebur128(at('held.wav')).truePeak).toBeLessThanOrEqual(-0.75);
  expect(db(annex2TruePeak(read('held.wav').left))).toBeLessThanOrEqual(-0.95);
});
const WHITE = noise(96_000, 1, 7);

test('samples over full scale stop a render with words, unless clipping is asked for', () => {
  writeWave(at('over.wav'), both(sine(997, 3, 1, RATE)), RATE, '32f');
  const refused = render('over.wav', 'clipped.wav', []);
  expect(refused.status).toBe(1);
  expect(refused.stderr).toMatch(/^\d+ samples are over full scale and would clip at 24 bits\. Lower the level/);
  expect(existsSync(at('clipped.wav'))).toBe(false);
  expect(render('over.wav', 'clipped.wav', [], '--clip').status).toBe(0);
  expect(max(...read('clipped.wav').left.subarray(0, 1000))).toBeCloseTo(1, 5);
  expect(render('over.wav', 'float.wav', [], '--depth', '32f').status).toBe(0);
  expect(max(...read('float.wav').left.subarray(0, 1000))).toBeCloseTo(10 ** (3 / 20), 3);
  // A sine that just reaches full scale is nothing that clips.
  writeWave(at('full.wav'), both(sine(997, 0, 1, RATE)), RATE, '32f');
  expect(render('full.wav', 'fits.wav', []).status).toBe(0);
});

test.each([
  ['saturation', { driveDb: 18, makeupMatched: true }],
  ['compressor', { thresholdDbfs: -40, ratio: 6, makeupMatched: true }],
])('auto makeup of a %s is measured in a render too', (kind, settings) => {
  writeWave(at('music.wav'), music(12, RATE, 0.3), RATE);
  const before = ebur128(at('music.wav')).integrated;
  const without = { ...settings, makeupMatched: false };
  expect(render('music.wav', 'free.wav', [{ kind, settings: without }], '--depth', '32f').status).toBe(0);
  expect(abs(ebur128(at('free.wav')).integrated - before)).toBeGreaterThan(1);
  expect(render('music.wav', 'matched.wav', [{ kind, settings }], '--depth', '32f').status).toBe(0);
  expect(abs(ebur128(at('matched.wav')).integrated - before)).toBeLessThanOrEqual(0.2);
});
