import type { SourceLevel } from '../../../engine/sources/level-match';
import { PassageLevels } from './passage-levels';

const level = (integratedLufs: number, truePeakDbtp = -3): SourceLevel => ({ integratedLufs, truePeakDbtp });
const buffer = () => ({ left: new Float32Array(4), right: new Float32Array(4) });

/** Levels that arrive when they are let. */
function measuring() {
  const asked: { span: { start: number; end: number }; answer: (level: SourceLevel) => Promise<void> }[] = [];
  const levels = new PassageLevels({
    measure: (_audio, span) =>
      new Promise((resolve) =>
        asked.push({
          span,
          answer: async (each) => {
            resolve(each);
            await Promise.resolve();
            await Promise.resolve();
          },
        }),
      ),
  });
  return { asked, levels };
}

test('until the passage is measured the whole counts; then its loudness, and still the true peak of the whole', async () => {
  const { asked, levels } = measuring();
  const more = jest.fn();
  const buffers = { a: buffer() };
  const of = (start: number, end: number) => levels.within({ a: level(-14) }, buffers, 100, { start, end }, more);
  expect(of(100, 900).a).toEqual(level(-14));
  await asked[0].answer(level(-9, -8));
  expect(more).toHaveBeenCalledTimes(1);
  expect(of(100, 900).a).toEqual(level(-9));
  expect(asked).toHaveLength(1);
  // Another passage is measured for itself; a very short one as far as a block reaches.
  expect(of(200, 210).a).toEqual(level(-14));
  expect(asked[1].span).toEqual({ start: 200, end: 240 });
});

test('what is rendered again keeps the level of before until it is measured; without a signal the whole has to do', async () => {
  const { asked, levels } = measuring();
  const passage = { start: 0, end: 900 };
  const first = buffer();
  const ask = (buffers: Record<string, ReturnType<typeof buffer>>) =>
    levels.within({ a: level(-14), b: level(-20) }, buffers, 100, passage, () => {});
  ask({ a: first });
  await asked[0].answer(level(-10));
  expect(ask({ a: first })).toEqual({ a: level(-10), b: level(-20) });
  // The same memory, rendered to again.
  expect(ask({ a: { ...first } }).a).toEqual(level(-10));
  expect(asked).toHaveLength(2);
});
