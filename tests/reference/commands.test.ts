// The batch commands, checked from outside: against ffmpeg, and bit for bit.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { ebur128, ffmpeg } from '../support/ffmpeg';
import { music } from '../support/music';
import { both, sine } from '../support/signals';
import { writeWave } from '../support/wave';

const RATE = 48000;
let folder: string;
const at = (name: string) => path.join(folder, name);
beforeAll(() => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'copper-commands-'));
  writeWave(at('music.wav'), music(12, RATE, 0.4), RATE);
});
afterAll(() => rmSync(folder, { recursive: true }));

function command(name: 'measure' | 'render', ...args: string[]) {
  const environment = { ...process.env, DATABASE_URL: '' };
  const { status, stdout, stderr } = spawnSync('scripts/command', [name, ...args], {
    encoding: 'utf8',
    env: environment,
  });
  return { status, stdout, stderr };
}
function lane(...stages: object[]): string {
  writeFileSync(
    at('lane.json'),
    JSON.stringify({ schema: 1, stages: stages.map((stage, i) => ({ id: `${i}`, ...stage })) }),
  );
  return at('lane.json');
}
const samples = (file: string, format: string) => ffmpeg(['-i', file, '-f', format, '-']).out;

test('measure prints what ffmpeg measures, within 0.1 LU and 0.1 dB', () => {
  const { status, stdout } = command('measure', at('music.wav'));
  expect(status).toBe(0);
  const measured = JSON.parse(stdout) as Record<string, number> & {
    truePeakDbtp: [number, number];
    samplePeakDbfs: [number, number];
  };
  const reference = ebur128(at('music.wav'));
  expect(Math.abs(measured.integratedLufs - reference.integrated)).toBeLessThanOrEqual(0.1);
  expect(Math.abs(Math.max(...measured.truePeakDbtp) - reference.truePeak)).toBeLessThanOrEqual(0.1);
  expect(measured).toMatchObject({ sampleRate: RATE, durationSeconds: 12 });
  expect(Object.keys(measured).sort()).toEqual(
    [
      'durationSeconds',
      'integratedLufs',
      'loudnessRangeLu',
      'maxMomentaryLufs',
      'maxShortTermLufs',
      'sampleRate',
      'samplePeakDbfs',
      'truePeakDbtp',
    ].sort(),
  );
});

test('an empty lane gives a 24-bit file back bit for bit, as WAV and as FLAC', () => {
  for (const name of ['same.wav', 'same.flac']) {
    expect(command('render', at('music.wav'), at(name), '--lane', lane()).status).toBe(0);
    expect(samples(at(name), 's32le').equals(samples(at('music.wav'), 's32le'))).toBe(true);
  }
});

test('render takes bands that move, linear phase and the state that is heard', () => {
  writeWave(at('tone.wav'), both(sine(1000, -20, 4, RATE)), RATE);
  const bell = { shape: 'bell', frequencyHz: 1000 };
  const dynamics = { thresholdDbfs: -40, rangeDb: -6, attackMs: 1 };
  const moving = { kind: 'equalizer', settings: { bands: [{ ...bell, dynamics }] } };
  const linear = {
    kind: 'equalizer',
    settings: {
      phase: 'linear',
      state: 2,
      bands: [{ ...bell, gainDb: 2 }],
      other: { bands: [{ ...bell, gainDb: 9 }] },
    },
  };
  expect(command('render', at('tone.wav'), at('out.wav'), '--lane', lane(moving, linear)).status).toBe(0);
  // 6 dB down by the one that moves, 2 dB up by the state that is heard; the file is as long as it was.
  const { stdout } = command('measure', at('out.wav'));
  const measured = JSON.parse(stdout) as { integratedLufs: number; durationSeconds: number };
  expect(measured.integratedLufs).toBeCloseTo(-24, 1);
  expect(measured.durationSeconds).toBe(4);
});

test('a trim is exactly its gain, a float file is not rounded', () => {
  const file = lane({ kind: 'trim', settings: { gainDb: -6 } });
  expect(command('render', at('music.wav'), at('quiet.wav'), '--lane', file, '--depth', '32f').status).toBe(0);
  const [before, after] = ['music.wav', 'quiet.wav'].map(
    (name) => new Float64Array(Uint8Array.from(samples(at(name), 'f64le')).buffer),
  );
  const gain = 10 ** (-6 / 20);
  expect(after.every((x, i) => Math.abs(x - before[i] * gain) < 1e-7)).toBe(true);
});

test('16 bits are dithered, and the same each time', () => {
  const file = lane({ kind: 'trim', settings: { gainDb: -3 } });
  for (const name of ['a.wav', 'b.wav']) command('render', at('music.wav'), at(name), '--lane', file, '--depth', '16');
  expect(readFileSync(at('a.wav')).equals(readFileSync(at('b.wav')))).toBe(true);
  const rounded = ffmpeg([
    '-i',
    at('music.wav'),
    '-af',
    'volume=-3dB:precision=double',
    '-c:a',
    'pcm_s16le',
    '-f',
    's16le',
    '-',
  ]).out;
  const [dithered, plain] = [samples(at('a.wav'), 's16le'), rounded].map(
    (bytes) => new Int16Array(Uint8Array.from(bytes).buffer),
  );
  const differences = dithered.map((x, i) => Math.abs(x - plain[i]));
  expect(differences.reduce((a, b) => Math.max(a, b), 0)).toBeLessThanOrEqual(2);
  expect(differences.some((x) => x > 0)).toBe(true);
});

test('another rate keeps the tone and its level, and the limiter’s ceiling holds there', () => {
  writeWave(at('tone.wav'), both(sine(997, -6, 4, RATE)), RATE);
  command('render', at('tone.wav'), at('tone44.wav'), '--lane', lane(), '--rate', '44100');
  const { truePeak } = ebur128(at('tone44.wav'));
  expect(Math.abs(truePeak + 6)).toBeLessThan(0.11);
  const loud = lane({ kind: 'limiter', settings: { inputGainDb: 9, ceilingDbtp: -1 } });
  const { status } = command('render', at('music.wav'), at('loud44.wav'), '--lane', loud, '--rate', '44100');
  expect(status).toBe(0);
  expect(ebur128(at('loud44.wav')).truePeak).toBeLessThanOrEqual(-0.9);
});

test.each([
  [['missing.wav', 'out.wav'], /There is no file/],
  [['music.wav', 'out.mp3'], /must end in .wav, .flac or .aiff/],
  [['music.wav', 'out.wav', '--depth', '18'], /16, 20, 24 or 32f/],
  [['music.wav', 'out.wav', '--rate', 'fast'], /whole number of Hz/],
  [['music.wav', 'out.flac', '--depth', '32f'], /FLAC can’t hold float samples/],
  [['music.wav', 'out.wav', '--lane', 'bad.json'], /it is not JSON/],
  [['music.wav', 'out.wav', '--lane', 'wrong.json'], /Gain must be at most 24 dB/],
  [['music.wav'], /Usage: npm run --silent render/],
])('render %p fails with one sentence and leaves nothing', (args, words) => {
  writeFileSync(at('bad.json'), 'no json');
  writeFileSync(at('wrong.json'), '{"schema":1,"stages":[{"id":"a","kind":"trim","settings":{"gainDb":99}}]}');
  const before = readdirSync(folder);
  const { status, stdout, stderr } = command(
    'render',
    ...args.map((arg) => (/\.(wav|mp3|flac|json)$/.test(arg) ? at(arg) : arg)),
  );
  expect([status, stdout]).toEqual([1, '']);
  expect(stderr).toMatch(words);
  expect(readdirSync(folder)).toEqual(before);
});

test('measure of what is no audio fails with one sentence', () => {
  writeFileSync(at('notes.wav'), 'no sound');
  const { status, stdout, stderr } = command('measure', at('notes.wav'));
  expect([status, stdout]).toEqual([1, '']);
  expect(stderr).toMatch(/not a readable audio file/);
});

test('render plays a room by an impulse response that it is given, and says when it was not', () => {
  writeWave(at('click.wav'), both(Float64Array.from({ length: RATE }, (_, i) => (i === 100 ? 0.5 : 0))), RATE, '32f');
  writeWave(at('late.wav'), both(Float64Array.from({ length: 5000 }, (_, i) => (i === 4000 ? 0.8 : 0))), RATE, '32f');
  const settings = { impulse: 'file', file: 'late', wetDb: 0, preDelayMs: 0, highPassHz: 20, lowPassHz: 20000 };
  const file = lane({ kind: 'room', settings });
  const refused = command('render', at('click.wav'), at('out.wav'), '--lane', file);
  expect([refused.status, refused.stderr]).toEqual([1, expect.stringContaining('“late” is missing')]);
  const wrong = command('render', at('click.wav'), at('out.wav'), '--lane', file, '--impulse', 'late');
  expect(wrong.stderr).toContain('NAME=FILE');
  const args = [at('click.wav'), at('out.wav'), '--lane', file, '--impulse', `late=${at('late.wav')}`];
  expect(command('render', ...args, '--depth', '32f').status).toBe(0);
  const out = samples(at('out.wav'), 'f32le');
  const values = new Float32Array(out.buffer.slice(out.byteOffset, out.byteOffset + out.length));
  const left = (frame: number) => Math.abs(values[2 * frame]);
  expect(left(100)).toBeCloseTo(0.5, 5);
  // Unit energy: whatever its level was, a single click in the response comes back at full level, through the filters.
  const late = Math.max(...Array.from({ length: 8 }, (_, i) => left(4098 + i)));
  expect(late).toBeGreaterThan(0.3);
  expect(left(2000)).toBeLessThan(1e-6);
});
