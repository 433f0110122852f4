import { createStore } from 'zustand/vanilla';
import { EMPTY_LANE, newStage, type Lane } from '../../core/lane/schema';
import type { SaveLane, VersionState } from '../../contracts/version';
import { LaneSaver } from './lane-saver';
import type { LaneState } from './lane-editor';

const version = (step: number, lane: Lane): VersionState =>
  ({ id: 'v', name: 'First', step, lane, undo: null, redo: null, pins: [], createdAt: '' }) satisfies VersionState;
const laneOf = (...ids: string[]): Lane => ({ ...EMPTY_LANE, stages: ids.map((id) => newStage('trim', id)) });

/** A saver beside a server that answers when it is told to. */
function open() {
  const store = createStore<LaneState>(() => ({ version: version(3, laneOf()), saving: 'saved' }));
  const problems: (string | null)[] = [];
  const puts: SaveLane[] = [];
  const answers: (() => void)[] = [];
  const save = (_: string, put: SaveLane) =>
    new Promise<VersionState>((resolve) => {
      puts.push(put);
      answers.push(() => resolve(version(put.after + (put.amends ? 0 : 1), put.lane)));
    });
  const change = (...ids: string[]) =>
    store.setState({ version: { ...store.getState().version, lane: laneOf(...ids) } });
  const answer = async () => {
    answers.shift()!();
    await jest.advanceTimersByTimeAsync(1);
  };
  const saver = new LaneSaver(store, (problem) => problems.push(problem), save);
  return { store, saver, problems, puts, change, answer };
}

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

test('what is changed while a save is under way keeps its lane, and is saved on the step that the save made', async () => {
  const { store, saver, puts, change, answer } = open();
  change('a');
  saver.step('Add a');
  await jest.advanceTimersByTimeAsync(300);
  change('a', 'b');
  saver.step('Add b');
  await jest.advanceTimersByTimeAsync(300);
  // The second waits for the first.
  expect(puts).toHaveLength(1);
  await answer();
  expect(puts.map(({ label, after }) => [label, after])).toEqual([
    ['Add a', 3],
    ['Add b', 4],
  ]);
  expect(store.getState().saving).toBe('saving');
  await answer();
  expect(store.getState()).toMatchObject({ saving: 'saved', version: { step: 5, lane: laneOf('a', 'b') } });
});

test('what follows from a saved step is put into it; what follows from an unsaved one goes with it', async () => {
  const { saver, puts, change, answer } = open();
  change('a');
  saver.step('Add a');
  change('a', 'made up');
  saver.amend();
  await jest.advanceTimersByTimeAsync(300);
  await answer();
  saver.amend();
  await jest.advanceTimersByTimeAsync(300);
  await answer();
  expect(puts.map(({ label, after, amends }) => [label, after, amends])).toEqual([
    ['Add a', 3, false],
    ['Add a', 4, true],
  ]);
});

test('nothing is sent when nothing was changed', async () => {
  const { saver, puts } = open();
  await saver.flush();
  expect(puts).toEqual([]);
});
