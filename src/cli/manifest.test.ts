import { READY_MADE } from '../core/deliver/ready-made';
import { destinationsOf, manifestSchema, namePartsOf } from './manifest';

const LEAST = { tracks: [{ file: 'one.wav', title: 'One' }], destinations: ['Disc'] };

test('a manifest needs no more than tracks and destinations', () => {
  const manifest = manifestSchema.parse(LEAST);
  expect(destinationsOf(manifest)).toEqual([READY_MADE[2]]);
  expect(manifest.folder).toBe('masters');
  const parts = namePartsOf(manifest, manifest.tracks[0], 0, READY_MADE[2]);
  expect(parts).toMatchObject({ position: '01', title: 'One', destination: 'Disc', year: '' });
});

test('a destination can be given with all of its values, also in its first form', () => {
  const first = {
    ...{ schema: 1, name: 'Station', source: 'EBU R 128', loudness: { targetLufs: -23, toleranceLu: 0.5 } },
    ...{ maxTruePeakDbtp: -1, depth: 24, sampleRate: 48000, container: 'wav' },
  };
  const manifest = manifestSchema.parse({ ...LEAST, destinations: [first, { ...READY_MADE[1], name: 'Whole' }] });
  const [station, whole] = destinationsOf(manifest);
  expect(station).toMatchObject({ name: 'Station', loudness: { rule: 'target', lufs: -23, toleranceLu: 0.5 } });
  expect(whole).toEqual({ ...READY_MADE[1], name: 'Whole' });
});

test.each([
  ['an unknown key', { format: 'mp3' }],
  ['no destination', { destinations: [] }],
  ['a track without a title', { tracks: [{ file: 'one.wav', title: ' ' }] }],
  ['a level beyond what is possible', { tracks: [{ ...LEAST.tracks[0], levels: { Disc: 40 } }] }],
  ['a pattern with an unknown part', { pattern: '{colour}' }],
  ['a form of the future', { schema: 2 }],
  ['a wrong check digit', { release: { ean: '4006381333932' } }],
  ['an invalid ISRC', { tracks: [{ ...LEAST.tracks[0], isrc: 'AA-6Q7' }] }],
])('%s is refused', (_, change) => {
  expect(manifestSchema.safeParse({ ...LEAST, ...change }).success).toBe(false);
});

test('a name that is no ready-made destination is refused with those that are', () => {
  const manifest = manifestSchema.parse({ ...LEAST, destinations: ['__proto__'] });
  expect(() => destinationsOf(manifest)).toThrow('There are Streaming, Broadcast, Disc');
});
