import { COMMON_PRACTICE as COMMON } from './describe';
import { destinationSchema, NOTHING_ASKED, type Destination, type DestinationInput } from './destination';

/** What most destinations have in common: the mix's own rate, 24 bits with TPDF, WAV. */
const BASIS = {
  ...NOTHING_ASKED,
  source: COMMON,
  truePeak: { maxDbtp: -1, reason: 'Players and encoders add to the peaks.' },
  sampleRate: { rule: 'mix', reason: 'A conversion nobody asks for gains nothing.' },
  wordLength: { bits: 24, dither: 'TPDF', digitalSilence: false, reducedOnce: false },
  format: { name: 'WAV', kbps: null },
} as const satisfies Partial<DestinationInput>;

const BROADCAST = {
  ...BASIS,
  sampleRate: { rule: 'fixed', hertz: 48000, upsampling: true, reason: 'Broadcasting runs at 48 kHz.', source: COMMON },
  format: {
    name: 'Broadcast WAV',
    kbps: null,
    reason: 'Its bext chunk carries the loudness.',
    source: 'EBU Tech 3285',
  },
} as const satisfies Partial<DestinationInput>;

/** Values of the published ones are from memory of the publications. */
const WRITTEN: readonly DestinationInput[] = [
  {
    ...BASIS,
    name: 'Streaming',
    loudness: {
      ...{ rule: 'target', lufs: -14, toleranceLu: 1 },
      reason: 'What is louder is turned down to about this, and has given up its dynamics for nothing.',
    },
    format: { name: 'FLAC', kbps: null },
  },
  {
    ...BROADCAST,
    ...{ name: 'Broadcast', source: 'EBU R 128' },
    loudness: { rule: 'target', lufs: -23, toleranceLu: 0.5 },
  },
  {
    ...BASIS,
    ...{ name: 'Disc', source: 'IEC 60908' },
    truePeak: { maxDbtp: -0.3, reason: 'Converters in players clip between samples.', source: COMMON },
    sampleRate: { rule: 'fixed', hertz: 44100, upsampling: true },
    wordLength: { bits: 16, dither: 'TPDF', digitalSilence: false, reducedOnce: false },
    duration: { minSeconds: 4, maxSeconds: 4797, reason: 'A track of a disc lasts at least 4 s; about 79:57 fit.' },
  },
  {
    ...BROADCAST,
    ...{ name: 'Short advert', source: 'EBU R 128 s1' },
    loudness: { rule: 'target', lufs: -23, toleranceLu: 0.5 },
    shortTerm: { maxLufs: -18, reason: 'A short advert could be loud and quiet in turn, and still measure right.' },
  },
  {
    ...BROADCAST,
    ...{ name: 'Broadcast, −24 with 2 LU', source: 'ATSC A/85' },
    loudness: { rule: 'target', lufs: -24, toleranceLu: 2 },
    truePeak: { maxDbtp: -2 },
  },
  {
    ...BROADCAST,
    ...{ name: 'Broadcast, −24 with 1 LU', source: 'ARIB TR-B32' },
    loudness: { rule: 'target', lufs: -24, toleranceLu: 1 },
  },
  {
    ...BASIS,
    ...{ name: 'Streaming by track', source: 'AES TD1008' },
    loudness: {
      ...{ rule: 'target', lufs: -16, toleranceLu: 1 },
      reason: 'Track normalisation plays every track at this. The tolerance is ours.',
    },
    format: { name: 'FLAC', kbps: null },
  },
  {
    ...BASIS,
    ...{ name: 'Streaming by album', source: 'AES TD1008' },
    loudness: {
      ...{ rule: 'maximum', lufs: -14 },
      reason: 'Album normalisation plays the loudest track at this; the others keep their distance from it.',
    },
    format: { name: 'FLAC', kbps: null },
  },
  {
    ...BASIS,
    name: 'Download',
    encodes: [{ codec: 'AAC', kbps: 256, maxDbtp: 0, reason: 'What the store sends must not clip either.' }],
    wordLength: {
      ...{ bits: 24, dither: 'TPDF', digitalSilence: false, reducedOnce: true },
      reason: 'Bits that a mix has lost don’t come back.',
    },
    tags: { required: ['title', 'artist', 'isrc'], reason: 'The store files it by these.' },
    checksum: true,
  },
  {
    ...BASIS,
    name: 'Lacquer premaster',
    duration: { minSeconds: 1, maxSeconds: 1320, reason: 'Beyond 22 minutes a side of 12 inches gets quiet.' },
    cutting: { reason: 'The cutting engineer decides, by the side as a whole.' },
  },
  {
    ...BASIS,
    name: 'Listening copy',
    truePeak: { maxDbtp: 0, reason: 'What is heard of it may not clip.' },
    format: { name: 'MP3', kbps: 320, reason: 'It plays on any phone.' },
  },
];

/** The destinations that every account’s shelf begins with. */
export const READY_MADE: readonly Destination[] = WRITTEN.map((each) => destinationSchema.parse(each));

/** Names of those that a new release of a new account starts with. */
export const STARTING_NAMES = ['Streaming', 'Broadcast', 'Disc'] as const;

/** A ready-made destination by its name; undefined when there is none. */
export function readyMade(name: string): Destination | undefined {
  return READY_MADE.find((each) => each.name === name);
}
