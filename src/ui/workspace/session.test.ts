import { LANE_SCHEMA, newStage, type Lane } from '../../core/lane/schema';
import type { LiveRequest } from '../../engine/live/protocol';
import type { PassListener } from '../../engine/pass/client';
import type { PassResult } from '../../engine/pass/result';
import type { VersionState } from '../../exchange/version';
import type { Workspace } from '../../exchange/workspace';
import { WorkspaceSession } from './session';

// What the page reaches by an audio context and a worker is watched from outside.
const sent: LiveRequest[] = [];
const passes: Lane[] = [];
let listener: PassListener;
jest.mock('../../engine/live/player', () => ({
  decodeMix: () => Promise.resolve({ left: new Float32Array(9), right: new Float32Array(9), sampleRate: 44100 }),
  Player: {
    open: () =>
      Promise.resolve({
        send: (request: LiveRequest) => sent.push(request),
        play: () => Promise.resolve(),
        close: () => Promise.resolve(),
      }),
  },
}));
jest.mock('../../engine/pass/client', () => ({
  PassClient: class {
    constructor(_audio: unknown, to: PassListener) {
      listener = to;
    }
    run(lane: Lane) {
      passes.push(lane);
    }
    close() {}
  },
}));

const TRIM = newStage('trim', 'a');
const version = (step: number, lane: Lane): VersionState => ({
  id: 'v',
  name: 'First',
  step,
  lane,
  undo: null,
  pins: [],
  redo: null,
});
const START = version(0, { schema: LANE_SCHEMA, stages: [TRIM] });
const WORKSPACE = {
  track: { id: 't', title: 'Piece', position: 1 },
  mix: { id: 'm', status: 'ready', source: { sampleRate: 44100 }, report: { loudest: { start: 3, end: 7 } } },
  versions: [START],
  destinations: [],
  deliveries: [],
} as unknown as Workspace;

/** A server that keeps the lane it is given, and can be made to fail. */
class Server {
  saved: { lane: Lane; label: string; after: number }[] = [];
  failing = false;
  asked: string[] = [];

  readonly fetch = (address: string, init: { method?: string; body?: string } = {}): Promise<Response> => {
    this.asked.push(`${init.method ?? 'GET'} ${address}`);
    if (address.includes('/audio')) {
      return Promise.resolve(
        new Response(new Uint8Array(4), { status: 206, headers: { 'content-range': 'bytes 0-3/4' } }),
      );
    }
    if (this.failing)
      return Promise.resolve(Response.json({ error: 'The database cannot be reached just now.' }, { status: 503 }));
    if (address.endsWith('/undo')) return Promise.resolve(Response.json(START));
    const body = JSON.parse(init.body!) as Server['saved'][number];
    this.saved.push(body);
    return Promise.resolve(Response.json(version(body.after + 1, body.lane)));
  };
}

let server: Server;
let session: WorkspaceSession;
const state = () => session.store.getState();
const gain = (lane: Lane) => (lane.stages[0]?.kind === 'trim' ? lane.stages[0].settings.gainDb : null);
const turn = (gainDb: number) => session.setStage(TRIM as Extract<typeof TRIM, { kind: 'trim' }>, 'Gain', { gainDb });

beforeEach(async () => {
  jest.useFakeTimers();
  sent.length = 0;
  passes.length = 0;
  server = new Server();
  const kept = new Map<string, string>();
  Object.assign(globalThis, {
    fetch: server.fetch,
    localStorage: {
      getItem: (key: string) => kept.get(key) ?? null,
      setItem: (key: string, value: string) => kept.set(key, value),
    },
  });
  session = new WorkspaceSession(WORKSPACE);
  await session.open();
});
afterEach(() => {
  session.close();
  jest.useRealTimers();
});

test('a change is heard at once, saved in a moment and measured', async () => {
  turn(-3);
  expect(sent.at(-1)).toMatchObject({ type: 'lane' });
  expect(state().saving).toBe('saving');
  expect(server.saved).toHaveLength(0);
  await jest.advanceTimersByTimeAsync(300);
  expect(server.saved).toMatchObject([{ label: 'Gain', after: 0 }]);
  expect(state()).toMatchObject({ saving: 'saved', version: { step: 1 } });
  expect(gain(passes.at(-1)!)).toBe(-3);
});

test('changes that follow quickly become one step with the last value', async () => {
  for (const gainDb of [-1, -2, -3, -4]) {
    turn(gainDb);
    await jest.advanceTimersByTimeAsync(100);
  }
  await jest.advanceTimersByTimeAsync(300);
  expect(server.saved.map(({ lane }) => gain(lane))).toEqual([-4]);
});

test('what cannot be saved is kept, said in words, and saved by the next try', async () => {
  server.failing = true;
  turn(-5);
  await jest.advanceTimersByTimeAsync(300);
  expect(state()).toMatchObject({ saving: 'failed', problem: 'The database cannot be reached just now.' });
  expect(gain(state().version.lane)).toBe(-5);
  server.failing = false;
  await session.flush();
  expect(server.saved.map(({ lane }) => gain(lane))).toEqual([-5]);
  expect(state()).toMatchObject({ saving: 'saved', problem: null });
});

test('undo first saves what is not saved, and is heard', async () => {
  turn(-6);
  await session.step('undo');
  expect(server.asked.slice(-2)).toEqual(['PUT /api/versions/v/lane', 'POST /api/versions/v/undo']);
  expect(gain(state().version.lane)).toBe(0);
  expect(sent.filter(({ type }) => type === 'lane').at(-1)).toMatchObject({ lane: START.lane });
});

test('a problem of another kind outlives a save', async () => {
  session.report('x.json: It does not hold JSON.');
  turn(-1);
  await jest.advanceTimersByTimeAsync(300);
  expect(state()).toMatchObject({ saving: 'saved', problem: 'x.json: It does not hold JSON.' });
});

test('a removed stage gives way to its neighbour; added and moved ones keep their order', () => {
  session.addStage('limiter', 1);
  session.addStage('equalizer', 1);
  const kinds = () => state().version.lane.stages.map(({ kind }) => kind);
  expect(kinds()).toEqual(['trim', 'equalizer', 'limiter']);
  session.moveStage('a', 2);
  expect(kinds()).toEqual(['equalizer', 'limiter', 'trim']);
  session.openStage('a');
  session.removeStage('a');
  expect(kinds()).toEqual(['equalizer', 'limiter']);
  expect(state().openStage).toBe(state().version.lane.stages[1].id);
  session.toggleStage(state().openStage!);
  expect(state().version.lane.stages[1].on).toBe(false);
});

test('mix and master are matched by the full pass when it is there', () => {
  const reading = (integratedLufs: number, truePeakDbtp: number) => ({ integratedLufs, truePeakDbtp });
  listener.onResult({ mix: reading(-20, -9), master: reading(-14, -1) } as PassResult);
  expect(state()).toMatchObject({ matchEstimated: false, match: { mixDb: 6, masterDb: 0 } });
  expect(sent.at(-1)).toEqual({ type: 'match', mixDb: 6, masterDb: 0 });
  listener.onFailure('The full pass could not be started.');
  expect(state().passProblem).toBe('The full pass could not be started.');
});

test('the view of a track is remembered, and what does not exist any more is left out', async () => {
  session.addStage('limiter', 1);
  session.setLoop({ start: 100, end: 900 });
  const opened = state().openStage;
  await jest.advanceTimersByTimeAsync(300);
  const again = new WorkspaceSession({ ...WORKSPACE, versions: [state().version] });
  expect(again.store.getState()).toMatchObject({ openStage: opened, loop: { start: 100, end: 900 } });
  expect(new WorkspaceSession(WORKSPACE).store.getState().openStage).toBe('a');
});
