import { discFramesOf, discRequirements, type ImageProgramme } from './disc';
import { placeTracks } from './joint';

const SECTOR = 588;
/** An image of tracks that last some disc frames, without gaps. */
function image(lengths: number[], change: Partial<ImageProgramme> = {}): ImageProgramme {
  const placed = placeTracks(
    lengths.map((discFrames) => ({ frames: discFrames * SECTOR, joint: { kind: 'gap', discFrames: 0 } })),
    44100,
  );
  const tracks = placed.map((place, i) => ({ ...place, title: `Track ${i + 1}`, isrc: 'AA6Q72600001' }));
  return { sampleRate: 44100, bits: 16, ean: '4006381333931', tracks, ...change };
}
const standing = (of: ImageProgramme, title: string) =>
  discRequirements(of).find((each) => each.title === title)!.standing;

// Each limit of IEC 60908 at the limit, and one step beyond.
test.each([
  ['Tracks', image(Array<number>(99).fill(300)), image(Array<number>(100).fill(300))],
  ['Shortest track', image([300, 300]), image([300, 299])],
  ['Whole disc', image([(79 * 60 + 57) * 75]), image([(79 * 60 + 57) * 75 + 1])],
  ['Samples', image([300]), image([300], { bits: 24 })],
  ['Samples', image([300]), image([300], { sampleRate: 48000 })],
  ['EAN', image([300]), image([300], { ean: '' })],
])('%s: what is just allowed meets, the next step misses', (title, allowed, beyond) => {
  expect([standing(allowed, title), standing(beyond, title)]).toEqual(['meets', 'misses']);
});

test('codes are advice: a disc without them can be made', () => {
  expect(
    discRequirements(image([300], { ean: '' }))
      .filter(({ advice }) => advice)
      .map(({ title }) => title),
  ).toEqual(['ISRC', 'EAN']);
});

test('the last disc frame is filled up', () => {
  expect(discFramesOf({ tracks: [{ end: SECTOR }], sampleRate: 44100 })).toBe(1);
  expect(discFramesOf({ tracks: [{ end: SECTOR + 1 }], sampleRate: 44100 })).toBe(2);
});
