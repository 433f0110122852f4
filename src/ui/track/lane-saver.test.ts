import { createStore } from 'zustand/vanilla';
import { EMPTY_LANE, newStage, type Lane } from '../../core/lane/schema';
import type { SaveLane, VersionState } from '../../contracts/version';
import { ApiError } from '../api';
import type { KeptSteps } from './lane-outbox';
import { LaneSaver } from './lane-saver';
import type { LaneState } from './lane-editor';

const version = (step: number, lane: Lane, undo: string | null = 'Older', redo: string | null = null): VersionState =>
  ({ id: 'v', name: 'First', step, lane, undo, redo, pins: [], createdAt: '' }) satisfies VersionState;
const laneOf = (...ids: string[]): Lane => ({ ...EMPTY_LANE, stages: ids.map((id) => newStage('trim', id)) });

let held: number | null = null;
let release = () => {};
jest.mock('../kit/hold', () => ({
  gesture: () => held,
  onRelease: (tell: () => void) => (held === null ? tell() : (release = tell)),
}));

/** A saver beside a server that answers when it is told to. */
function open(left: KeptSteps | null = null) {
  const kept: (KeptSteps | null)[] = [];
  const store = createStore<LaneState>(() => ({
    version: version(3, laneOf()),
    saving: 'saved',
    unsaved: [],
    undo: 'Older',
    redo: null,
  }));
  const problems: (string | null)[] = [];
  const puts: SaveLane[] = [];
  const moves: string[] = [];
  /** The history as the server has it. */
  const steps = new Map<number, [string | null, Lane]>([[3, ['Older', laneOf()]]]);
  const answers: (() => void)[] = [];
  const failures: ((error: Error) => void)[] = [];
  const later = (make: () => VersionState) =>
    new Promise<VersionState>((resolve, reject) => {
      failures.push(reject);
      answers.push(() => resolve(make()));
    });
  const at = (step: number) => version(step, steps.get(step)![1], steps.get(step)![0], steps.get(step + 1)?.[0]);
  const lanes = new LaneSaver(
    store,
    (problem) => problems.push(problem),
    {
      save: (_, put) => {
        puts.push(put);
        return later(() => {
          const step = put.after + (put.amends ? 0 : 1);
          if (!put.amends) for (const known of steps.keys()) if (known > put.after) steps.delete(known);
          steps.set(step, [put.amends ? (steps.get(step)?.[0] ?? null) : put.label, put.lane]);
          return at(step);
        });
      },
      go: (_, direction, after) => {
        moves.push(`${direction} ${after}`);
        return later(() => at(after + (direction === 'undo' ? -1 : 1)));
      },
    },
    {
      keep: (_, steps) => kept.push(steps),
      takeLeft: () => Promise.resolve(left),
    },
  );
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
  const saver = {
    step: (label: string) => lanes.step(label, before),
    amend: () => lanes.amend(before),
    flush: () => lanes.flush(),
    undo: () => lanes.undo(),
    redo: () => lanes.redo(),
    drop: () => lanes.drop(),
    rebase: () => lanes.rebase(),
    restore: () => lanes.restore(),
  };
  return { store, saver, problems, puts, moves, steps, kept, change, answer, fail };
}

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

test('what is changed while a save is under way keeps its lane, and is saved on the step that the save made', async () => {
  const { store, saver, puts, change, answer } = open();
  change('a');
  saver.step('Add a');
  await jest.advanceTimersByTimeAsync(600);
  change('a', 'b');
  saver.step('Add b');
  await jest.advanceTimersByTimeAsync(600);
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
  await jest.advanceTimersByTimeAsync(600);
  await answer();
  saver.amend();
  await jest.advanceTimersByTimeAsync(600);
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
  await jest.advanceTimersByTimeAsync(600);
  await fail(AWAY);
  for (const ids of [
    ['a', 'b'],
    ['a', 'b', 'c'],
  ]) {
    change(...ids);
    saver.step(`Add ${ids.at(-1)}`);
    await jest.advanceTimersByTimeAsync(600);
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
  await jest.advanceTimersByTimeAsync(600);
  await fail(AWAY);
  change('a', 'b');
  saver.step('Add b');
  expect(saver.undo()).toBe(true);
  expect(store.getState()).toMatchObject({ unsaved: ['Add a'], redo: 'Add b', version: { lane: laneOf('a') } });
  expect(saver.undo()).toBe(true);
  expect(store.getState()).toMatchObject({ saving: 'saved', unsaved: [], version: { lane: laneOf() } });
  expect(saver.undo()).toBe(false);
  expect(saver.redo()).toBe(true);
  expect(store.getState()).toMatchObject({ unsaved: ['Add a'], redo: 'Add b', version: { lane: laneOf('a') } });
  puts.length = 0;
  void saver.flush();
  await jest.advanceTimersByTimeAsync(1);
  await answer();
  expect(puts.map(({ label }) => label)).toEqual(['Add a']);
});

test('while the server is away undo and redo go through the saved steps too, and the server follows when it is back', async () => {
  const { store, saver, change, answer, fail, puts, moves } = open();
  for (const ids of [['a'], ['a', 'b']]) {
    change(...ids);
    saver.step(`Add ${ids.at(-1)}`);
    await jest.advanceTimersByTimeAsync(600);
    await answer();
  }
  expect(store.getState()).toMatchObject({ saving: 'saved', undo: 'Add b', version: { step: 5 } });
  const away = async () => {
    void saver.flush();
    await jest.advanceTimersByTimeAsync(1);
    await fail(AWAY);
  };
  expect(saver.undo()).toBe(true);
  await away();
  expect(store.getState()).toMatchObject({
    ...{ saving: 'waiting', unsaved: ['Undo Add b'], undo: 'Add a', redo: 'Add b' },
    version: { lane: laneOf('a') },
  });
  expect(saver.undo()).toBe(true);
  expect(store.getState()).toMatchObject({ undo: null, redo: 'Add a', version: { lane: laneOf() } });
  // What was before this page was opened is not known here.
  expect(saver.undo()).toBe(false);
  expect(saver.redo()).toBe(true);
  expect(store.getState()).toMatchObject({ unsaved: ['Undo Add b'], version: { lane: laneOf('a') } });
  change('a', 'c');
  saver.step('Add c');
  expect(store.getState()).toMatchObject({ undo: 'Add c', redo: null });
  await jest.advanceTimersByTimeAsync(600);
  await fail(AWAY);
  expect(saver.undo()).toBe(true);
  expect(saver.undo()).toBe(true);
  expect(saver.redo()).toBe(true);
  expect(saver.redo()).toBe(true);
  expect(store.getState()).toMatchObject({ unsaved: ['Undo Add b', 'Add c'], version: { lane: laneOf('a', 'c') } });
  puts.length = moves.length = 0;
  await jest.advanceTimersByTimeAsync(10_000);
  await answer();
  await answer();
  expect(moves).toEqual(['undo 5']);
  expect(puts.map(({ label, after }) => [label, after])).toEqual([['Add c', 4]]);
  expect(store.getState()).toMatchObject({ saving: 'saved', undo: 'Add c', redo: null, version: { step: 5 } });
  // Both ways with the server: at once here, and then there.
  saver.undo();
  void saver.flush();
  await jest.advanceTimersByTimeAsync(1);
  await answer();
  expect(store.getState()).toMatchObject({ undo: 'Add a', redo: 'Add c', version: { step: 4, lane: laneOf('a') } });
  saver.redo();
  void saver.flush();
  await jest.advanceTimersByTimeAsync(1);
  await answer();
  expect(moves).toEqual(['undo 5', 'undo 5', 'redo 4']);
  expect(store.getState()).toMatchObject({ undo: 'Add c', redo: null, version: { step: 5, lane: laneOf('a', 'c') } });
});

test('a step that is not what this page knew of it is taken as the server has it', async () => {
  const { store, saver, steps, change, answer } = open();
  change('a');
  saver.step('Add a');
  await jest.advanceTimersByTimeAsync(600);
  await answer();
  steps.set(3, ['Older', laneOf('other')]);
  saver.undo();
  expect(store.getState().version.lane).toEqual(laneOf());
  void saver.flush();
  await jest.advanceTimersByTimeAsync(1);
  await answer();
  expect(store.getState().version).toMatchObject({ step: 3, lane: laneOf('other') });
});

test('an undo that met another window’s change can follow it as a step of its own', async () => {
  const { store, saver, puts, change, answer, fail } = open();
  change('a');
  saver.step('Add a');
  await jest.advanceTimersByTimeAsync(600);
  await answer();
  saver.undo();
  void saver.flush();
  await jest.advanceTimersByTimeAsync(1);
  await fail(new ApiError(409, 'versionChanged', 'Changed.'));
  expect(store.getState().saving).toBe('conflict');
  saver.rebase();
  void saver.flush();
  await jest.advanceTimersByTimeAsync(1);
  expect(puts.at(-1)).toMatchObject({ label: 'Undo Add a', lane: laneOf(), amends: false });
});

test('a version that was changed elsewhere is a conflict, what is refused is said: neither is tried again by itself', async () => {
  for (const [error, saving, said] of [
    [new ApiError(409, 'versionChanged', 'Changed.'), 'conflict', []],
    [new ApiError(422, 'invalid', 'The gain is too high.'), 'failed', ['The gain is too high.']],
  ] as const) {
    const { store, saver, problems, puts, change, fail } = open();
    change('a');
    saver.step('Add a');
    await jest.advanceTimersByTimeAsync(600);
    await fail(error);
    await jest.advanceTimersByTimeAsync(60_000);
    expect(store.getState()).toMatchObject({ saving, unsaved: ['Add a'], version: { lane: laneOf('a') } });
    expect(problems).toEqual(said);
    expect(puts).toHaveLength(1);
    saver.drop();
    expect(store.getState()).toMatchObject({ saving: 'saved', unsaved: [] });
  }
});

test('one press is one step, however long it lasts and whatever it moves', async () => {
  const { saver, puts, change } = open();
  held = 7;
  for (const id of ['a', 'b', 'c']) {
    change(id);
    saver.step(`Move ${id}`);
    await jest.advanceTimersByTimeAsync(2000);
  }
  expect(puts).toHaveLength(0);
  held = null;
  release();
  await jest.advanceTimersByTimeAsync(600);
  expect(puts.map(({ label, lane }) => [label, lane.stages[0].id])).toEqual([['Move c', 'c']]);
});

test('keys in a row on one control are one step, on another one a step of their own', async () => {
  const { store, saver, change } = open();
  for (const label of ['Gain', 'Gain', 'Threshold']) {
    change(label);
    saver.step(label);
    await jest.advanceTimersByTimeAsync(300);
  }
  expect(store.getState().unsaved).toEqual(['Gain', 'Threshold']);
});

test('a step is safe before anything is sent, and forgotten once it arrived', async () => {
  const { saver, kept, puts, change, answer } = open();
  change('a');
  saver.step('Add a');
  expect(puts).toHaveLength(0);
  expect(kept.at(-1)).toMatchObject({ after: 3, steps: [{ kind: 'change', label: 'Add a', lane: laneOf('a') }] });
  await jest.advanceTimersByTimeAsync(600);
  await answer();
  expect(kept.at(-1)).toBeNull();
});

const left = (after: number): KeptSteps => ({
  after,
  steps: [{ kind: 'change', label: 'Add a', before: laneOf(), lane: laneOf('a'), amends: false }],
});

test('what a page that is gone did not save is shown and saved', async () => {
  const { store, saver, puts, answer } = open(left(3));
  void saver.restore();
  await jest.advanceTimersByTimeAsync(1);
  expect(store.getState()).toMatchObject({ saving: 'saving', version: { lane: laneOf('a') } });
  await answer();
  expect(puts).toMatchObject([{ label: 'Add a', after: 3 }]);
  expect(store.getState().saving).toBe('saved');
});

test('what was left on an older step is a conflict; what had arrived is not', async () => {
  const older = open(left(2));
  await older.saver.restore();
  expect(older.store.getState()).toMatchObject({ saving: 'conflict', unsaved: ['Add a'] });
  const arrived = open({ after: 2, steps: [{ ...left(2).steps[0], lane: laneOf() }] });
  await arrived.saver.restore();
  expect(arrived.store.getState()).toMatchObject({ saving: 'saved', unsaved: [] });
  expect(arrived.kept.at(-1)).toBeNull();
});
