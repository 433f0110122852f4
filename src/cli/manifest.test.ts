import { STARTING_DESTINATIONS } from '../core/deliver/destination';
import { destinationsOf, manifestSchema, namePartsOf } from './manifest';

const LEAST = { tracks: [{ file: 'one.wav', title: 'One' }], destinations: ['Disc'] };

test('a manifest needs no more than tracks and destinations', () => {
  const manifest = manifestSchema.parse(LEAST);
  expect(destinationsOf(manifest)).toEqual([STARTING_DESTINATIONS[2]]);
  expect(manifest.folder).toBe('masters');
  const parts = namePartsOf(manifest, manifest.tracks[0], 0, STARTING_DESTINATIONS[2]);
  expect(parts).toMatchObject({ position: '01', title: 'One', destination: 'Disc', year: '' });
});

test('a destination can be given with all of its values, also in its first form', () => {
  const { dither, digitalSilence, ...old } = STARTING_DESTINATIONS[1];
  const manifest = manifestSchema.parse({ ...LEAST, destinations: [{ ...old, schema: 1, name: 'Station' }] });
  expect(destinationsOf(manifest)).toEqual([{ ...STARTING_DESTINATIONS[1], name: 'Station', dither, digitalSilence }]);
});

test.each([
  ['an unknown key', { format: 'mp3' }],
  ['no destination', { destinations: [] }],
  ['a track without a title', { tracks: [{ file: 'one.wav', title: ' ' }] }],
  ['a level beyond what is possible', { tracks: [{ ...LEAST.tracks[0], levels: { Disc: 40 } }] }],
  ['a pattern with an unknown part', { pattern: '{colour}' }],
  ['a form of the future', { schema: 2 }],
])('%s is refused', (_, change) => {
  expect(manifestSchema.safeParse({ ...LEAST, ...change }).success).toBe(false);
});

test('a name that is no ready-made destination is refused with those that are', () => {
  const manifest = manifestSchema.parse({ ...LEAST, destinations: ['__proto__'] });
  expect(() => destinationsOf(manifest)).toThrow('There are Streaming, Broadcast, Disc');
});
