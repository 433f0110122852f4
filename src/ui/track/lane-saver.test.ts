import { createStore } from 'zustand/vanilla';
import { EMPTY_LANE, newStage, type Lane } from '../../core/lane/schema';
import type { SaveLane, VersionState } from '../../contracts/version';
import { ApiError } from '../api';
import { LaneSaver } from './lane-saver';
import type { LaneState } from './lane-editor';

const version = (step: number, lane: Lane): VersionState =>
  ({ id: 'v', name: 'First', step, lane, undo: null, redo: null, pins: [], createdAt: '' }) satisfies VersionState;
const laneOf = (...ids: string[]): Lane => ({ ...EMPTY_LANE, stages: ids.map((id) => newStage('trim', id)) });

/** A saver beside a server that answers when it is told to. */
function open() {
  const store = createStore<LaneState>(() => ({
    version: version(3, laneOf()),
    saving: 'saved',
    unsaved: [],
    undone: [],
  }));
  const problems: (string | null)[] = [];
  const puts: SaveLane[] = [];
  const answers: (() => void)[] = [];
  const failures: ((error: Error) => void)[] = [];
  const save = (_: string, put: SaveLane) =>
    new Promise<VersionState>((resolve, reject) => {
      puts.push(put);
      failures.push(reject);
      answers.push(() => resolve(version(put.after + (put.amends ? 0 : 1), put.lane)));
    });
  let before = laneOf();
  const change = (...ids: string[]) => {
    before = store.getState().version.lane;
    store.setState({ version: { ...store.getState().version, lane: laneOf(...ids) } });
  };
  const answer = async () => {
    failures.shift();
    answers.shift()!();
    await jest.advanceTimersByTimeAsync(1);
  };
  /** Has the next save fail. */
  const fail = async (error: Error) => {
    answers.shift();
    failures.shift()!(error);
    await jest.advanceTimersByTimeAsync(1);
  };
  const lanes = new LaneSaver(store, (problem) => problems.push(problem), save);
  const saver = {
    step: (label: string) => lanes.step(label, before),
    amend: () => lanes.amend(before),
    flush: () => lanes.flush(),
    undo: () => lanes.undo(),
    redo: () => lanes.redo(),
    drop: () => lanes.drop(),
  };
  return { store, saver, problems, puts, change, answer, fail };
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
    ['Makeup', 4, true],
  ]);
});

test('nothing is sent when nothing was changed', async () => {
  const { saver, puts } = open();
  await saver.flush();
  expect(puts).toEqual([]);
});

const AWAY = new ApiError(0, 'unavailable', 'The server can’t be reached.');

test('while the server is away steps are numbered and kept, and sent in order when it is back', async () => {
  const { store, saver, problems, puts, change, answer, fail } = open();
  change('a');
  saver.step('Add a');
  await jest.advanceTimersByTimeAsync(300);
  await fail(AWAY);
  for (const ids of [
    ['a', 'b'],
    ['a', 'b', 'c'],
  ]) {
    change(...ids);
    saver.step(`Add ${ids.at(-1)}`);
    await jest.advanceTimersByTimeAsync(300);
    await fail(AWAY);
  }
  expect(store.getState()).toMatchObject({ saving: 'waiting', unsaved: ['Add a', 'Add b', 'Add c'] });
  // Nobody is bothered with it.
  expect(problems).toEqual([]);
  puts.length = 0;
  await jest.advanceTimersByTimeAsync(10_000);
  for (let i = 0; i < 3; i++) await answer();
  expect(puts.map(({ label, after, lane }) => [label, after, lane.stages.length])).toEqual([
    ['Add a', 3, 1],
    ['Add b', 4, 2],
    ['Add c', 5, 3],
  ]);
  expect(store.getState()).toMatchObject({ saving: 'saved', unsaved: [], version: { step: 6 } });
});

test('what is not saved is taken back and done again without the server', async () => {
  const { store, saver, change, answer, fail, puts } = open();
  change('a');
  saver.step('Add a');
  await jest.advanceTimersByTimeAsync(300);
  await fail(AWAY);
  change('a', 'b');
  saver.step('Add b');
  expect(saver.undo()).toBe(true);
  expect(store.getState()).toMatchObject({ unsaved: ['Add a'], undone: ['Add b'], version: { lane: laneOf('a') } });
  expect(saver.undo()).toBe(true);
  expect(store.getState()).toMatchObject({ saving: 'saved', unsaved: [], version: { lane: laneOf() } });
  expect(saver.undo()).toBe(false);
  expect(saver.redo()).toBe(true);
  expect(store.getState()).toMatchObject({ unsaved: ['Add a'], undone: ['Add b'], version: { lane: laneOf('a') } });
  puts.length = 0;
  void saver.flush();
  await jest.advanceTimersByTimeAsync(1);
  await answer();
  expect(puts.map(({ label }) => label)).toEqual(['Add a']);
});

test('a version that was changed elsewhere is a conflict, what is refused is said: neither is tried again by itself', async () => {
  for (const [error, saving, said] of [
    [new ApiError(409, 'versionChanged', 'Changed.'), 'conflict', []],
    [new ApiError(422, 'invalid', 'The gain is too high.'), 'failed', ['The gain is too high.']],
  ] as const) {
    const { store, saver, problems, puts, change, fail } = open();
    change('a');
    saver.step('Add a');
    await jest.advanceTimersByTimeAsync(300);
    await fail(error);
    await jest.advanceTimersByTimeAsync(60_000);
    expect(store.getState()).toMatchObject({ saving, unsaved: ['Add a'], version: { lane: laneOf('a') } });
    expect(problems).toEqual(said);
    expect(puts).toHaveLength(1);
    saver.drop();
    expect(store.getState()).toMatchObject({ saving: 'saved', unsaved: [] });
  }
});
