import type { StageKind } from '../stages/registry';
import { MAX_STAGES, newStage, type Stage } from './schema';
import {
  beforeLastLimiters,
  neighbourOf,
  placeFor,
  withStageChanged,
  withStageMoved,
  withStagesAt,
} from './stage-edits';

const trim = (id: string) => newStage('trim', id);
const limiter = newStage('limiter', 'l');
const ids = (stages: readonly Stage[] | null) => stages?.map(({ id }) => id).join('') ?? null;
const abc = ['a', 'b', 'c'].map(trim);

test.each([
  [0, 'xyabc'],
  [2, 'abxyc'],
  [3, 'abcxy'],
])('stages come in at place %d in their order', (at, order) => {
  expect(ids(withStagesAt(abc, at, trim('x'), trim('y')))).toBe(order);
});

test('stages that would be too many are not put in, not even some of them', () => {
  const full = Array.from({ length: MAX_STAGES - 1 }, (_, i) => trim(String(i)));
  expect(withStagesAt(full, 0, trim('x'))).toHaveLength(MAX_STAGES);
  expect(withStagesAt(full, 0, trim('x'), trim('y'))).toBeNull();
});

test.each([
  ['a', 0, 'abc'],
  ['a', 2, 'bca'],
  ['c', 0, 'cab'],
  ['b', 9, 'acb'],
  ['gone', 1, 'abc'],
])('stage %s moves to place %d', (id, to, order) => {
  expect(ids(withStageMoved(abc, id, to))).toBe(order);
});

test('one stage changes and the others stay the very same', () => {
  const changed = withStageChanged(abc, 'b', (stage) => ({ ...stage, on: false }));
  expect(changed.map(({ on }) => on)).toEqual([true, false, true]);
  expect([changed[0], changed[2]].map((stage, i) => stage === abc[2 * i])).toEqual([true, true]);
});

test.each([
  [abc, 'a', 'b'],
  [abc, 'c', 'b'],
  [abc.slice(0, 1), 'a', undefined],
])('when a stage goes its neighbour takes its place', (stages, id, neighbour) => {
  expect(neighbourOf(stages, id)?.id).toBe(neighbour);
});

test('what comes from another lane stays ahead of the limiter at the end, unless it is one itself', () => {
  expect(placeFor([...abc, limiter], trim('x'))).toBe(3);
  expect(placeFor([...abc, limiter], newStage('limiter', 'x'))).toBe(4);
  expect(placeFor([limiter, ...abc], trim('x'))).toBe(4);
  expect(placeFor([], trim('x'))).toBe(0);
});

test('an equalizer of the whole goes before all limiters that end the lane, and after everything else', () => {
  const laneOf = (...kinds: StageKind[]) => kinds.map((kind, i) => newStage(kind, String(i)));
  expect(beforeLastLimiters(laneOf('trim', 'limiter', 'limiter'))).toBe(1);
  expect(beforeLastLimiters(laneOf('trim', 'limiter'))).toBe(1);
  expect(beforeLastLimiters(laneOf('limiter', 'trim'))).toBe(2);
  expect(beforeLastLimiters(laneOf('limiter', 'limiter'))).toBe(0);
  expect(beforeLastLimiters([])).toBe(0);
});
