import { ditheredPassage, raisedDb } from './dithered-passage';

const RATE = 44100;
const channel = (level: number) => Float32Array.from({ length: RATE }, (_, i) => level * Math.sin(i / 20));
const quiet = { left: channel(0.00095), right: channel(0.0005) };
const passage = { start: 1000, end: 11000 };

test('a quiet passage is raised as far as there is room, and by no more than 60 dB', () => {
  expect(raisedDb(quiet, passage)).toBe(57);
  expect(raisedDb({ left: channel(1e-5), right: channel(1e-5) }, passage)).toBe(60);
  expect(raisedDb({ left: channel(0.9), right: channel(0.9) }, passage)).toBe(0);
  expect(raisedDb({ left: new Float32Array(20_000), right: new Float32Array(20_000) }, passage)).toBe(0);
});

test('it is what the file has there, louder', () => {
  const options = { dither: 'none', depth: 16, sampleRate: RATE, gainDb: 40 } as const;
  const { left, right } = ditheredPassage(quiet, passage, options);
  expect(left).toHaveLength(10_000);
  for (let i = 0; i < 10_000; i += 97) {
    expect(left[i]).toBeCloseTo((100 * Math.round(quiet.left[1000 + i] * 32768)) / 32768, 4);
    expect(right[i]).toBeCloseTo((100 * Math.round(quiet.right[1000 + i] * 32768)) / 32768, 4);
  }
});
