import { quietPassages } from './quiet-passages';

const RATE = 8000;
/** Levels in dB, two seconds each, as noise-like alternation; null is silence. */
function track(levels: (number | null)[]) {
  const side = Float32Array.from({ length: levels.length * 2 * RATE }, (_, i) => {
    const level = levels[Math.floor(i / (2 * RATE))];
    return level === null ? 0 : 10 ** (level / 20) * (i % 2 ? 1 : -1);
  });
  return { left: side, right: side, sampleRate: RATE };
}
const seconds = ({ start, end }: { start: number; end: number }) => [start / RATE, end / RATE];

test('the quietest two seconds and the last ones before silence are found', () => {
  const found = quietPassages(track([-20, -20, -50, -48, -20, -30, -40, null]))!;
  expect(seconds(found.quietest)).toEqual([4, 6]);
  expect(seconds(found.end)).toEqual([12, 14]);
});

test('silence in the middle is not what is looked for', () => {
  const found = quietPassages(track([-20, null, null, -20, -40, -20]))!;
  expect(seconds(found.quietest)).toEqual([8, 10]);
});

test('a track that is short or silent has none', () => {
  expect(quietPassages(track([null, null, null]))).toBeNull();
  expect(quietPassages({ ...track([-20]), left: new Float32Array(RATE), right: new Float32Array(RATE) })).toBeNull();
});
