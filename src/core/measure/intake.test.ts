import { join, noise, silence, sine, type Stereo, both } from '../../../tests/support/signals';
import { findings, type FindingKind, type SourceFacts } from './findings';
import { IntakeMeter, loudestPassage } from './intake';

const RATE = 48000;
const SOURCE: SourceFacts = { container: 'WAV', channels: 2, bits: 24, float: false, sampleRate: RATE };

function measure({ left, right }: Stereo) {
  const meter = new IntakeMeter(RATE, left.length);
  // Odd chunks, as a decoder gives them; on the grid of a 24-bit file.
  const grid = (x: number) => Math.round(x * 8388608) / 8388608;
  for (let at = 0; at < left.length; at += 777) {
    const chunk = new Float32Array(Math.min(777, left.length - at) * 2);
    for (let i = 0; i < chunk.length / 2; i++) {
      chunk[i * 2] = grid(left[at + i]);
      chunk[i * 2 + 1] = grid(right[at + i]);
    }
    meter.add(chunk);
  }
  return meter.result();
}
const titles = (signal: Stereo, source = SOURCE) => findings(source, measure(signal)).map(({ title }) => title);

test('a clean tone has nothing found, and its figures are right', () => {
  // Quiet with a crest each second, as a mix before its mastering.
  const crest = (x: number, i: number) => x * (0.15 + 0.85 * Math.max(0, Math.sin((2 * Math.PI * i) / RATE)) ** 40);
  const signal = { left: sine(997, -3, 5, RATE).map(crest), right: sine(997, -4, 5, RATE).map(crest) };
  const result = measure(signal);
  expect(titles(signal)).toEqual([]);
  expect(result.frames).toBe(5 * RATE);
  expect(20 * Math.log10(result.samplePeak[0])).toBeCloseTo(-3, 1);
  expect(20 * Math.log10(result.truePeak[1])).toBeCloseTo(-4, 1);
  expect(result.rangeLu).toBeLessThan(0.5);
  expect(result.bitsUsed).toBe(24);
});

test('three samples in a row at the extreme are a clipped run, two are not', () => {
  const clip = (seconds: number) => ({
    left: sine(997, 3, seconds, RATE).map((x) => Math.max(-0.9, Math.min(0.9, x))),
    right: silence(seconds, RATE),
  });
  const runs = measure(clip(1)).clippedRuns;
  // Two clipped crests in each of the 997 cycles.
  expect(runs).toBe(2 * 997);
  const pairs = silence(1, RATE).map((_, i) => (i % 100 < 2 ? 0.9 : 0.1));
  expect(measure(both(pairs)).clippedRuns).toBe(0);
});

test('DC, overs, unused bits and silence at the ends are found with their figures', () => {
  const shifted = both(sine(997, -12, 4, RATE).map((x) => x + 0.01));
  expect(measure(shifted).dcOffset[0]).toBeCloseTo(0.01, 5);
  expect(titles(shifted)).toContain('DC offset');

  const hidden = both(sine(RATE / 4, 1, 4, RATE, 45));
  expect(measure(hidden).overs).toBeGreaterThan(0);
  expect(titles(hidden)).toContain('Overs between samples');

  // Two thousandths of an offset are good to know, a hundredth takes headroom.
  const weights = [0.002, 0.02].map((dc) =>
    findings(SOURCE, measure(both(sine(997, -12, 4, RATE).map((x) => x + dc)))).find(
      ({ title }) => title === 'DC offset',
    ),
  );
  expect(weights.map((found) => found?.weight)).toEqual(['note', 'caution']);

  const coarse = both(noise(4 * RATE, 0.2).map((x) => Math.round(x * 32768) / 32768));
  expect(measure(coarse).bitsUsed).toBe(16);
  expect(titles(coarse)).toContain('Fewer bits than the file');

  const padded = both(join(silence(1, RATE), sine(997, -3, 4, RATE), silence(3, RATE)));
  const { headFrames, tailFrames } = measure(padded);
  expect(headFrames / RATE).toBeCloseTo(1, 3);
  expect(tailFrames / RATE).toBeCloseTo(3, 2);
  expect(titles(padded)).toEqual(['Silence at the head', 'Silence at the tail']);
});

test.each([
  [1.1, -6],
  [2.5, -7],
  [10.7, -15],
])('a float mix whose true peak is %p dBTP is told to come down by %p dB', (peakDb, trimDb) => {
  const meter = new IntakeMeter(RATE, 2 * RATE);
  const tone = sine(997, peakDb, 2, RATE);
  meter.add(Float32Array.from({ length: 4 * RATE }, (_, i) => tone[i >> 1]));
  const found = findings({ ...SOURCE, bits: 32, float: true }, meter.result());
  const { advice } = found.find(({ title }) => title === 'Overs between samples')!;
  expect(advice).toContain(`a trim of −${-trimDb} dB`);
});

test('a silent file is a fault, and mono is told', () => {
  expect(titles(both(silence(2, RATE)))).toEqual(['Silent']);
  expect(titles(both(sine(997, -12, 2, RATE)), { ...SOURCE, channels: 1 })).toContain('Mono');
});

test('damaged float samples are counted', () => {
  const meter = new IntakeMeter(RATE, RATE);
  meter.add(Float32Array.of(NaN, 0.1, Infinity, 5000, 0.2, 0.3));
  expect(meter.result().invalidSamples).toBe(3);
});

test('the loudest passage is the ten seconds around what is loudest', () => {
  const quiet = sine(997, -30, 20, RATE);
  const { loudestStart, loudestEnd } = measure(both(join(quiet, sine(997, -12, 8, RATE), quiet)));
  expect(loudestStart / RATE).toBeGreaterThan(17);
  expect(loudestEnd / RATE).toBeLessThan(31);
  expect(loudestEnd - loudestStart).toBe(10 * RATE);
  expect(loudestPassage(new Float32Array(10), 1)).toEqual({ start: 0, end: 1 });
});

/** A signal, and one whose right channel correlates with it by `c`: a tone, and another that has nothing to do with it. */
const related = (hz: number, c: number, level = -12): Stereo => {
  const [one, other] = [sine(hz, level, 8, RATE), sine(1.37 * hz, level, 8, RATE)];
  return { left: one, right: one.map((x, i) => c * x + Math.sqrt(1 - c * c) * other[i]) };
};
const pulses = (value: number, run: number) => both(silence(4, RATE).map((_, i) => (i % 997 < run ? value : 0.01)));
const tone = (level: number, seconds = 4) => both(sine(997, level, seconds, RATE));
const beside = (level: number): Stereo => ({ left: sine(997, -12, 4, RATE), right: sine(997, level, 4, RATE) });
const stepped = (bits: number) =>
  both(sine(997, -8, 4, RATE).map((x) => Math.round(x * 2 ** (bits - 1)) / 2 ** (bits - 1)));
const levels = (first: number, second: number) => both(join(sine(997, first, 20, RATE), sine(997, second, 20, RATE)));
const around = (head: number, tail: number) =>
  both(join(silence(head, RATE), sine(997, -4, 3, RATE), silence(tail, RATE)));

test.each<[FindingKind, Stereo, Stereo]>([
  ['clipped', pulses(0.5, 2), pulses(0.5, 3)],
  ['fullScale', pulses(1 - 2 ** -14, 1), pulses(1 - 2 ** -15, 1)],
  // A quarter of the rate at 45 degrees: the wave is 3 dB above the samples.
  ['overs', both(sine(RATE / 4, -0.1, 4, RATE, 45)), both(sine(RATE / 4, 0.1, 4, RATE, 45))],
  ['littleHeadroom', tone(-1.1), tone(-0.9)],
  [
    'offset',
    both(sine(997, -12, 4, RATE).map((x) => x + 0.0009)),
    both(sine(997, -12, 4, RATE).map((x) => x + 0.0011)),
  ],
  ['fewerBits', stepped(17), stepped(16)],
  ['alreadyLoud', tone(-12.2), tone(-11.8)],
  // Two levels of 20 s each differ by the loudness range (EBU Tech 3342).
  ['veryDynamic', levels(-20, -37.7), levels(-20, -38.3)],
  ['silentHead', around(0.48, 0), around(0.52, 0)],
  ['silentTail', around(0, 1.98), around(0, 2.02)],
  ['leaning', beside(-13.4), beside(-13.6)],
  ['channelMissing', beside(-71), beside(-73)],
  ['channelInverted', related(400, -0.45), related(400, -0.55)],
  ['wideBass', related(60, 0.55), related(60, 0.45)],
  ['lowLevel', tone(-4.9), tone(-5.1)],
])('%s is told from its threshold on, and not before', (kind, before, beyond) => {
  const kinds = (signal: Stereo) => findings(SOURCE, measure(signal)).map((finding) => finding.kind);
  expect(kinds(before)).not.toContain(kind);
  expect(kinds(beyond)).toContain(kind);
});
