// Limits of EBU R 128, IEC 60908 and common practice for streaming, from memory of the publications.
import { sine } from '../../../tests/support/signals';
import { ProgrammeMeter } from '../measure/programme-meter';
import { destinationSchema, type Destination } from './destination';
import type { Facts } from './facts';
import { readyMade } from './ready-made';
import { judge, judgeAtDelivery } from './verdict';

const named = (name: string): Destination => readyMade(name)!;
const facts = (part: Partial<Facts> = {}): Facts => ({
  ...{ integratedLufs: -14, truePeakDbtp: -1, maxMomentaryLufs: -10, maxShortTermLufs: -12, rangeLu: 6 },
  ...{ durationSeconds: 200, headSeconds: 0.2, tailSeconds: 1 },
  ...{
    mix: { sampleRate: 44100, bitsUsed: 24 },
    file: null,
    tags: { title: 'One', artist: 'Somebody', isrc: 'AA6Q72000047' },
  },
  ...part,
});
const asking = (part: object): Destination =>
  destinationSchema.parse({ ...named('Streaming'), loudness: null, ...part });
const written = (part: object = {}) => ({
  ...{ format: 'FLAC' as const, sampleRate: 44100, bits: 24, bitsUsed: 24 },
  ...part,
});
const standing = (destination: Destination, part: Partial<Facts>) => judge(destination, facts(part)).standing;

test('EBU R 128 allows −23.0 LUFS ±0.5 LU', () => {
  const at = (integratedLufs: number) => standing(named('Broadcast'), { integratedLufs });
  expect([-23.6, -23.5, -23, -22.5, -22.4].map(at)).toEqual(['misses', 'meets', 'meets', 'meets', 'misses']);
});

const silence = {
  head: { minSeconds: 0.1, maxSeconds: 0.5 },
  tail: { minSeconds: 0.5, maxSeconds: 2 },
};
const duration = { minSeconds: 4, maxSeconds: 300 };
const fixed = (upsampling: boolean) => ({ rule: 'fixed', hertz: 48000, upsampling });
const encodes = [{ codec: 'AAC', kbps: 256, maxDbtp: -0.5 }];
const encoded = (truePeakDbtp: number) => ({ encodes: [{ codec: 'AAC' as const, kbps: 256 as const, truePeakDbtp }] });
const at48 = { sampleRate: 48000, bitsUsed: 24 };
const bits16 = { ...named('Streaming').wordLength, bits: 16 };
const bits20 = { ...named('Streaming').wordLength, bits: 20 };
const reducedOnce = { ...named('Streaming').wordLength, reducedOnce: true };

// What is asked, what just meets it, what misses it by the smallest step that is shown, and what that is called.
test.each<[string, object, Partial<Facts>, Partial<Facts>, string]>([
  [
    'loudness, at most',
    { loudness: { rule: 'maximum', lufs: -14 } },
    { integratedLufs: -14 },
    { integratedLufs: -13.9 },
    '0.1 LU too loud',
  ],
  [
    'momentary',
    { momentary: { maxLufs: -10 } },
    { maxMomentaryLufs: -10 },
    { maxMomentaryLufs: -9.9 },
    '0.1 LU too loud',
  ],
  [
    'short-term',
    { shortTerm: { maxLufs: -12 } },
    { maxShortTermLufs: -12 },
    { maxShortTermLufs: -11.9 },
    '0.1 LU too loud',
  ],
  ['range', { range: { maxLu: 6 } }, { rangeLu: 6 }, { rangeLu: 6.1 }, '0.1 LU too wide'],
  ['PLR', { plr: { minLu: 13 } }, {}, { truePeakDbtp: -1.1 }, '0.1 LU too little'],
  ['true peak', {}, { truePeakDbtp: -0.95 }, { truePeakDbtp: -0.94 }, '0.1 dB too high'],
  ['true peak in an encode', { encodes }, encoded(-0.45), encoded(-0.44), '0.1 dB too high'],
  [
    'fixed rate',
    { sampleRate: fixed(true) },
    { file: written({ sampleRate: 48000 }) },
    { file: written() },
    'must be 48 kHz',
  ],
  ['no upsampling', { sampleRate: fixed(false) }, { mix: at48 }, {}, 'the mix has 44.1 kHz only'],
  ['least rate', { sampleRate: { rule: 'minimum', hertz: 48000 } }, { mix: at48 }, {}, 'the mix has 44.1 kHz only'],
  [
    'the mix’s own rate',
    { sampleRate: { rule: 'mix' } },
    { file: written() },
    { file: written({ sampleRate: 48000 }) },
    'the mix has 44.1 kHz',
  ],
  [
    '16 bits',
    { wordLength: bits16 },
    { file: written({ bits: 16, bitsUsed: 16 }) },
    { file: written() },
    'must be 16 bits',
  ],
  [
    '20 bits',
    { wordLength: bits20 },
    { file: written({ bitsUsed: 20 }) },
    { file: written({ bitsUsed: 21 }) },
    'must be 20 bits',
  ],
  ['24 bits', {}, { file: written() }, { file: written({ bits: 16, bitsUsed: 16 }) }, 'must be 24 bits'],
  [
    'reduced once',
    { wordLength: reducedOnce },
    {},
    { mix: { sampleRate: 44100, bitsUsed: 23 } },
    'was already reduced to 23 bits',
  ],
  ['format', {}, { file: written() }, { file: written({ format: 'WAV' }) }, 'must be FLAC'],
  ['shortest', { duration }, { durationSeconds: 4 }, { durationSeconds: 3.9 }, '0.1 s too short'],
  ['longest', { duration }, { durationSeconds: 300 }, { durationSeconds: 300.1 }, '0.1 s too long'],
  ['head, least', { silence }, { headSeconds: 0.1 }, { headSeconds: 0 }, '0.1 s too little'],
  ['head, most', { silence }, { headSeconds: 0.5 }, { headSeconds: 0.6 }, '0.1 s too much'],
  ['tail, least', { silence }, { tailSeconds: 0.5 }, { tailSeconds: 0.4 }, '0.1 s too little'],
  ['tail, most', { silence }, { tailSeconds: 2 }, { tailSeconds: 2.1 }, '0.1 s too much'],
  ['tags', { tags: { required: ['title', 'isrc'] } }, {}, { tags: { title: 'One' } }, 'no ISRC'],
])('%s: met at the limit, and missed by the smallest step', (_, asked, meets, misses, miss) => {
  const destination = asking(asked);
  expect(standing(destination, meets)).toBe('meets');
  const verdict = judge(destination, facts(misses));
  expect(verdict.standing).toBe('misses');
  expect(verdict.requirements.flatMap((each) => (each.standing === 'misses' ? [each.miss] : []))).toEqual([miss]);
});

test.each<[string, object, Partial<Facts>]>([
  ['momentary', { momentary: { maxLufs: -10 } }, { maxMomentaryLufs: undefined }],
  ['short-term', { shortTerm: { maxLufs: -10 } }, { maxShortTermLufs: -Infinity }],
  ['range', { range: { maxLu: 6 } }, { rangeLu: undefined }],
  ['PLR', { plr: { minLu: 6 } }, { integratedLufs: -Infinity }],
  ['an encode', { encodes }, { encodes: [] }],
  ['duration', { duration }, { durationSeconds: undefined }],
  ['silence', { silence }, { headSeconds: undefined }],
  ['tags', { tags: { required: ['title'] } }, { tags: undefined }],
  ['loudness', { loudness: { rule: 'target', lufs: -14, toleranceLu: 1 } }, { integratedLufs: -Infinity }],
])('%s: what is not known is neither met nor missed', (_, asked, part) => {
  expect(standing(asking(asked), part)).toBe('unknown');
});

test('advice for the lacquer is told and decides nothing', () => {
  const loud = { cutting: { bassSideDb: -3, sideDbfs: -6, sibilanceDbfs: -10 } };
  const { standing: whole, requirements } = judge(named('Lacquer premaster'), facts(loud));
  expect(whole).toBe('meets');
  expect(requirements.filter(({ advice, standing: each }) => advice && each === 'misses')).toHaveLength(3);
  expect(standing(named('Lacquer premaster'), {})).toBe('meets');
});

test('each requirement has its reason and source; without one of its own, that of the destination', () => {
  const { requirements } = judge(named('Short advert'), facts());
  const shortTerm = requirements.find(({ title }) => title === 'Short-term')!;
  expect([shortTerm.source, shortTerm.reason]).toEqual(['EBU R 128 s1', expect.stringContaining('advert')]);
  expect(requirements.find(({ title }) => title === 'Sample rate')!.source).toMatch('Common practice');
});

test('what misses is said with its amount and the step that mends it', () => {
  const verdict = judge(named('Broadcast'), facts({ integratedLufs: -13.8 }));
  expect(verdict.requirements[0].miss).toBe('9.2 LU too loud');
  expect(verdict.levelDb).toBe(-9.2);
  expect(verdict.remedies).toEqual(['Lower by 9.2 dB at delivery: nothing else changes.']);
});

test('raising is offered at delivery only where the true peak has room', () => {
  const [room] = judge(named('Streaming'), facts({ integratedLufs: -20, truePeakDbtp: -9 })).remedies;
  expect(room).toMatch(/Raise by 6.0 dB at delivery/);
  const [none] = judge(named('Streaming'), facts({ integratedLufs: -20, truePeakDbtp: -2 })).remedies;
  expect(none).toMatch(/Raise by 6.0 dB through a limiter: the true peak has room for 1.0 dB only/);
});

test('a level that meets the loudest passage is offered only where it meets the whole as well', () => {
  const advert = named('Short advert');
  const steady = judgeAtDelivery(advert, facts({ integratedLufs: -14, maxShortTermLufs: -12, truePeakDbtp: -4 }), true);
  expect([steady.levelDb, steady.verdict.standing]).toEqual([-9, 'meets']);
  // 0.3 LU lower for the passage, which the tolerance of the whole allows.
  const near = judgeAtDelivery(advert, facts({ integratedLufs: -23, maxShortTermLufs: -17.7, truePeakDbtp: -4 }), true);
  expect([near.levelDb, near.verdict.standing]).toEqual([-0.3, 'meets']);
  const uneven = judge(advert, facts({ integratedLufs: -23, maxShortTermLufs: -15, truePeakDbtp: -4 }));
  expect([uneven.standing, uneven.levelDb]).toEqual(['misses', null]);
  expect(uneven.remedies).toEqual([expect.stringContaining('Hold the loudest passage down')]);
});

test('the level is left alone where that is asked for, or where the peaks have no room', () => {
  expect(judgeAtDelivery(named('Broadcast'), facts(), false).levelDb).toBe(0);
  const quiet = facts({ integratedLufs: -20, truePeakDbtp: -2 });
  expect(judgeAtDelivery(named('Streaming'), quiet, true)).toMatchObject({ levelDb: 0, verdict: { levelDb: 6 } });
});

test('a delivery that is lowered takes the peaks of its encodes down with it', () => {
  const quieter = asking({ loudness: { rule: 'maximum', lufs: -16 }, encodes });
  const loud = facts({ integratedLufs: -14, ...encoded(0.8) });
  expect(judge(quieter, loud).requirements.find(({ title }) => title.includes('AAC'))!.standing).toBe('misses');
  expect(judgeAtDelivery(quieter, loud, true)).toMatchObject({ levelDb: -2, verdict: { standing: 'meets' } });
});

test('a true peak over the limit is told with the ceiling that clears it', () => {
  const { standing: whole, remedies } = judge(named('Streaming'), facts({ truePeakDbtp: 0.4 }));
  expect(whole).toBe('misses');
  expect(remedies).toEqual(["Lower the peaks by 1.4 dB: set a limiter's ceiling to −1.0 dBTP."]);
});

test.each([
  // What is 997 Hz on both sides at this many dBFS has as many LUFS (ITU-R BS.1770), and as many dBTP.
  ['Broadcast', -22.46, -22.44, '0.6 LU too loud'],
  ['Broadcast', -23.54, -23.56, '0.6 LU too quiet'],
  ['Disc', -0.27, -0.23, '0.1 dB too high'],
] as const)('%s: a tone that is measured at %d dBFS meets, one at %d misses', (name, meets, misses, miss) => {
  const measured = (level: number) => {
    const tone = sine(997, level, 4, 48000);
    const meter = new ProgrammeMeter(48000, tone.length);
    meter.add(Float64Array.from({ length: 2 * tone.length }, (_, i) => tone[i >> 1]));
    const { integratedLufs, truePeaksDbtp } = meter.result();
    return judge(named(name), facts({ integratedLufs, truePeakDbtp: Math.max(...truePeaksDbtp) }));
  };
  expect(measured(meets).requirements.map(({ standing: each }) => each)).not.toContain('misses');
  expect(measured(misses).requirements.map((each) => each.miss)).toContainEqual(expect.stringContaining(miss));
});
