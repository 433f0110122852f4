import { deliveredRate, deliveredWordLength, destinationSchema, NOTHING_ASKED, type Destination } from './destination';
import { destinationSentence, describeDestination } from './describe';
import { READY_MADE, readyMade, STARTING_NAMES } from './ready-made';

const [streaming] = READY_MADE;

test('the first forms are brought up to date: TPDF always, then a dither of their own', () => {
  const first = {
    ...{ schema: 1, name: 'Disc', source: 'IEC 60908', loudness: null },
    ...{ maxTruePeakDbtp: -0.3, depth: 16, sampleRate: 44100, container: 'wav' },
  };
  const disc = destinationSchema.parse(first);
  expect(disc).toMatchObject({
    ...{ ...NOTHING_ASKED, name: 'Disc', source: 'IEC 60908', truePeak: { maxDbtp: -0.3 } },
    sampleRate: { rule: 'fixed', hertz: 44100, upsampling: true },
    wordLength: { bits: 16, dither: 'TPDF', digitalSilence: false, reducedOnce: false },
    format: { name: 'WAV', kbps: null },
  });
  const second = { ...first, schema: 2, dither: 'noise-shaped', digitalSilence: true, sampleRate: null };
  const { wordLength, sampleRate } = destinationSchema.parse({
    ...second,
    loudness: { targetLufs: -14, toleranceLu: 1 },
  });
  expect(wordLength).toMatchObject({ dither: 'noise-shaped', digitalSilence: true });
  expect(sampleRate.rule).toBe('mix');
  expect(destinationSchema.parse(JSON.parse(JSON.stringify(disc)))).toEqual(disc);
});

const encode = { codec: 'AAC', kbps: 256, maxDbtp: 0 };
test.each([
  ['a form of the future', { schema: 4 }],
  ['an unknown dither', { wordLength: { ...streaming.wordLength, dither: 'loud' } }],
  ['18 bits', { wordLength: { ...streaming.wordLength, bits: 18 } }],
  ['WAV with a rate of an encode', { format: { name: 'WAV', kbps: 256 } }],
  ['MP3 without one', { format: { name: 'MP3', kbps: null } }],
  [
    'MP3 at 96 kHz',
    { format: { name: 'MP3', kbps: 320 }, sampleRate: { rule: 'fixed', hertz: 96000, upsampling: true } },
  ],
  ['a shortest that is longer than the longest', { duration: { minSeconds: 5, maxSeconds: 4 } }],
  [
    'silence the wrong way round',
    { silence: { head: { minSeconds: 1, maxSeconds: 0 }, tail: { minSeconds: 0, maxSeconds: 1 } } },
  ],
  ['a file name without a title or a number', { fileNamePattern: '{artist}' }],
  ['an unknown tag', { tags: { required: ['mood'] } }],
  ['five encodes', { encodes: [encode, encode, encode, encode, encode] }],
  ['a true peak over full scale', { truePeak: { maxDbtp: 0.1 } }],
  ['no name', { name: ' ' }],
  ['NaN', { truePeak: { maxDbtp: NaN } }],
  ['an unknown key', { colour: 'red' }],
])('%s is refused', (_, change) => {
  expect(destinationSchema.safeParse({ ...streaming, ...change }).success).toBe(false);
});

test('nothing at all is refused', () => {
  expect([null, undefined, 3, [], '{}'].map((saved) => destinationSchema.safeParse(saved).success)).not.toContain(true);
});

test('the ready-made ones have the published values (from memory of the publications), each with its source', () => {
  const of = (name: string) => readyMade(name)!;
  expect(of('Broadcast')).toMatchObject({ source: 'EBU R 128', loudness: { lufs: -23, toleranceLu: 0.5 } });
  expect(of('Short advert')).toMatchObject({ source: 'EBU R 128 s1', shortTerm: { maxLufs: -18 } });
  expect(of('Broadcast, −24 with 2 LU')).toMatchObject({
    loudness: { lufs: -24, toleranceLu: 2 },
    truePeak: { maxDbtp: -2 },
  });
  expect(of('Broadcast, −24 with 1 LU')).toMatchObject({
    loudness: { lufs: -24, toleranceLu: 1 },
    truePeak: { maxDbtp: -1 },
  });
  expect(of('Streaming by track').loudness).toMatchObject({ rule: 'target', lufs: -16 });
  expect(of('Streaming by album').loudness).toMatchObject({ rule: 'maximum', lufs: -14 });
  expect(of('Disc')).toMatchObject({
    sampleRate: { hertz: 44100 },
    wordLength: { bits: 16 },
    duration: { minSeconds: 4 },
  });
  expect(READY_MADE.every(({ source }) => source !== '')).toBe(true);
  expect(new Set(READY_MADE.map(({ name }) => name)).size).toBe(READY_MADE.length);
  expect(STARTING_NAMES.every((name) => readyMade(name))).toBe(true);
});

test('rate and word length of what is delivered', () => {
  const [broadcast, copy] = [readyMade('Broadcast')!, readyMade('Listening copy')!];
  const rates = (destination: Destination) =>
    [44100, 48000, 88200, 96000, 192000].map((rate) => deliveredRate(destination, rate));
  expect(rates(streaming)).toEqual([44100, 48000, 88200, 96000, 192000]);
  expect(rates(broadcast)).toEqual([48000, 48000, 48000, 48000, 48000]);
  expect(rates(copy)).toEqual([44100, 48000, 44100, 48000, 48000]);
  expect([deliveredWordLength(broadcast), deliveredWordLength(copy)]).toEqual([24, null]);
});

test('a destination reads as a line and as a sentence', () => {
  expect(describeDestination(readyMade('Broadcast')!)).toBe(
    '−23.0 LUFS ±0.5, ≤ −1.0 dBTP, 48 kHz, 24-bit Broadcast WAV',
  );
  expect(destinationSentence(readyMade('Download')!)).toBe(
    'At most −1.0 dBTP, at most 0.0 dBTP in AAC 256 kb/s, the mix’s own rate, 24-bit WAV, TPDF, only from mixes at full word length, tags filled in, with its checksum.',
  );
  expect(describeDestination(readyMade('Listening copy')!)).toBe('≤ 0.0 dBTP, MP3 320 kb/s');
});
