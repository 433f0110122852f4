import fc from 'fast-check';
import { placeTracks, type Joint } from './joint';

const gap = (discFrames: number): Joint => ({ kind: 'gap', discFrames });
const over = (discFrames: number): Joint => ({ kind: 'crossfade', discFrames, shape: 'linear' });
const SECTOR = 588;

test('after a gap a track starts on a frame of a disc, at least the gap later', () => {
  const placed = placeTracks(
    [
      { frames: 100_000, joint: gap(150) },
      { frames: 44_100, joint: gap(150) },
    ],
    44100,
  );
  // The first track ends in frame 170 of the disc: the pause is marked at 171, the track two seconds after its end.
  expect(placed).toEqual([
    { start: 0, end: 100_000, overlap: 0, index0: null, index1: 0 },
    { start: 321 * SECTOR, end: 321 * SECTOR + 44_100, overlap: 0, index0: 171, index1: 321 },
  ]);
});

test('after a gap of 0 a track follows to the sample', () => {
  const [, second] = placeTracks(
    [
      { frames: 1000, joint: gap(0) },
      { frames: 5000, joint: gap(0) },
    ],
    44100,
  );
  expect(second).toEqual({ start: 1000, end: 6000, overlap: 0, index0: null, index1: 1 });
});

test('over a crossfade a track starts before the one before it ends, by no more than both have', () => {
  const tracks = [
    { frames: 10 * SECTOR, joint: gap(0) },
    { frames: 20 * SECTOR, joint: over(4) },
    { frames: 3 * SECTOR, joint: over(100) },
  ];
  const placed = placeTracks(tracks, 44100);
  expect(placed.map(({ start, overlap, index1 }) => [start / SECTOR, overlap / SECTOR, index1])).toEqual([
    [0, 0, 0],
    [6, 4, 6],
    [23, 3, 23],
  ]);
});

const joints = fc.oneof(fc.nat(4500).map(gap), fc.integer({ min: 1, max: 2250 }).map(over));
const rates = fc.constantFrom(22050, 32000, 44100, 48000, 88200, 96000, 176400, 192000);

test('marks rise, pauses come before their track, and overlaps never meet', () => {
  const tracks = fc.array(fc.record({ frames: fc.integer({ min: 1, max: 5_000_000 }), joint: joints }), {
    minLength: 1,
    maxLength: 20,
  });
  fc.assert(
    fc.property(tracks, rates, (list, sampleRate) => {
      const placed = placeTracks(list, sampleRate);
      placed.forEach(({ start, end, overlap, index0, index1 }, i) => {
        expect(end - start).toBe(list[i].frames);
        if (i === 0) return;
        const before = placed[i - 1];
        if (overlap > 0) expect(start).toBe(before.end - overlap);
        else expect(start).toBeGreaterThanOrEqual(before.end);
        expect(overlap + before.overlap).toBeLessThanOrEqual(before.end - before.start);
        expect(overlap).toBeLessThanOrEqual(end - start);
        expect(index1).toBeGreaterThanOrEqual(before.index1);
        if (index0 !== null) expect(index0).toBeLessThan(index1);
        // A mark is never later than the sound, and less than a frame of a disc before it.
        const mark = (index1 * sampleRate) / 75;
        expect(mark).toBeLessThanOrEqual(start + 0.5);
        expect(mark).toBeGreaterThan(start - sampleRate / 75 - 0.5);
        const { joint } = list[i];
        if (joint.kind === 'gap' && joint.discFrames > 0) {
          expect(Math.abs(mark - start)).toBeLessThanOrEqual(0.5);
          expect(start - before.end).toBeGreaterThanOrEqual(Math.floor((joint.discFrames * sampleRate) / 75) - 1);
          expect(start - before.end).toBeLessThan(((joint.discFrames + 1) * sampleRate) / 75 + 1);
        }
      });
    }),
  );
});
