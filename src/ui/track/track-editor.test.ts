import { EMPTY_LANE, newStage, type Lane, type Stage } from '../../core/lane/schema';
import { equalizerBand } from '../../core/stages/equalizer/settings';
import type { LiveReadings, LiveRequest } from '../../engine/live/protocol';
import type { PassListener } from '../../engine/measure/client';
import type { Measurement } from '../../engine/measure/measurement';
import type { VersionState } from '../../contracts/version';
import type { Workspace } from '../../contracts/track';
import { WorkspaceSession } from './track-editor';

// What the page reaches by an audio context and a worker is watched from outside.
const sent: LiveRequest[] = [];
const passes: Lane[] = [];
/** The full pass of the master first, then that of a comparison. */
const listeners: PassListener[] = [];
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
jest.mock('../../engine/measure/client', () => ({
  PassClient: class {
    constructor(_audio: unknown, _loudest: unknown, to: PassListener) {
      listeners.push(to);
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
const START = version(0, { ...EMPTY_LANE, stages: [TRIM] });
const WORKSPACE = {
  track: { id: 't', title: 'Piece', position: 1 },
  mix: { id: 'm', status: 'ready', source: { sampleRate: 44100 }, report: { loudest: { start: 3, end: 7 } } },
  versions: [START],
  destinations: [],
  deliveries: [],
} as unknown as Workspace;

const LIMITER = newStage('limiter', 'l');
const OTHER = {
  ...WORKSPACE,
  track: { id: 'other', title: 'Another', position: 2 },
  versions: [{ ...version(4, { ...EMPTY_LANE, stages: [newStage('trim', 'x'), LIMITER] }), id: 'w' }],
};

const SILENT: LiveReadings = {
  frame: 0,
  playing: false,
  joints: [],
  gainReduction: [],
  movements: [],
  bandReductions: [],
  correlations: [],
  tapLead: 0,
  samplePeak: [0, 0],
  truePeak: [0, 0],
  momentaryLufs: -70,
  shortTermLufs: -70,
  integratedLufs: -70,
  mixLufs: -70,
  masterLufs: -70,
};

/** A server that keeps the lane it is given, and can be made to fail. */
class Server {
  saved: { lane: Lane; label: string; after: number; amends: boolean }[] = [];
  failing = false;
  asked: string[] = [];

  readonly fetch = (address: string, init: { method?: string; body?: string } = {}): Promise<Response> => {
    this.asked.push(`${init.method ?? 'GET'} ${address}`);
    if (address.startsWith('/api/impulses/')) return Promise.resolve(new Response(null, { status: 404 }));
    if (address.includes('/audio')) {
      return Promise.resolve(
        new Response(new Uint8Array(4), { status: 206, headers: { 'content-range': 'bytes 0-3/4' } }),
      );
    }
    if (this.failing)
      return Promise.resolve(Response.json({ error: 'The database cannot be reached just now.' }, { status: 503 }));
    if (address.endsWith('/pins')) return Promise.resolve(new Response(null, { status: 204 }));
    if (address === '/api/tracks/other') return Promise.resolve(Response.json(OTHER));
    if (address.endsWith('/undo')) return Promise.resolve(Response.json(START));
    const body = JSON.parse(init.body!) as Server['saved'][number];
    this.saved.push(body);
    return Promise.resolve(Response.json(version(body.after + (body.amends ? 0 : 1), body.lane)));
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
  listeners.length = 0;
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

const reading = (integratedLufs: number, truePeakDbtp: number) => ({ integratedLufs, truePeakDbtp });

test('mix and master are matched by the full pass when it is there', () => {
  listeners[0].onResult({ mix: reading(-20, -9), master: reading(-14, -1) } as Measurement);
  expect(state()).toMatchObject({ matchEstimated: false, match: { mixDb: 6, masterDb: 0 } });
  expect(sent.at(-1)).toEqual({ type: 'match', mixDb: 6, masterDb: 0 });
  listeners[0].onFailure('The full pass could not be started.');
  expect(state().passProblem).toBe('The full pass could not be started.');
});

test('the view of a track is remembered, and what does not exist any more is left out', async () => {
  session.addStage('limiter', 1);
  session.listening.setLoop({ start: 100, end: 900 });
  const opened = state().openStage;
  await jest.advanceTimersByTimeAsync(300);
  const again = new WorkspaceSession({ ...WORKSPACE, versions: [state().version] });
  expect(again.store.getState()).toMatchObject({ openStage: opened, loop: { start: 100, end: 900 } });
  expect(new WorkspaceSession(WORKSPACE).store.getState().openStage).toBe('a');
});

const lastSent = (type: LiveRequest['type']) => sent.filter((request) => request.type === type).at(-1);

test('a stage is heard without, matched by what it does until the lane without it was measured', async () => {
  session.addStage('limiter', 1);
  await jest.advanceTimersByTimeAsync(300);
  const joints = [reading(-20, -6), reading(-23, -9), reading(-14, -1)];
  listeners[0].onResult({ joints, mix: joints[0], master: joints[2] } as Measurement);
  session.comparison.hearWithout('a');
  expect(state()).toMatchObject({ against: 'a', side: 'mix', matchEstimated: true });
  expect(lastSent('against')).toMatchObject({ lane: { stages: [{ kind: 'limiter' }] } });
  // The trim lowers by 3 dB.
  expect(state().match).toEqual({ mixDb: 0, masterDb: 3 });
  expect(passes.at(-1)!.stages.map(({ kind }) => kind)).toEqual(['limiter']);
  listeners[1].onResult({ master: reading(-13, -1) } as Measurement);
  expect(state()).toMatchObject({ matchEstimated: false, match: { mixDb: 0, masterDb: 1 } });
  session.comparison.hearWithout(null);
  expect(state()).toMatchObject({ against: null, side: 'master', matchEstimated: false });
  expect(lastSent('against')).toEqual({ type: 'against', lane: null });
  // The mix again.
  expect(state().match).toEqual({ mixDb: 6, masterDb: 0 });
});

test('a compared lane follows the changes of the others; a stage that goes or is off ends the comparison', async () => {
  session.addStage('limiter', 1);
  const limiter = state().openStage!;
  session.comparison.hearWithout(limiter);
  turn(-4);
  expect(lastSent('against')).toMatchObject({ lane: { stages: [{ settings: { gainDb: -4 } }] } });
  await jest.advanceTimersByTimeAsync(300);
  expect(passes.slice(-2).map(({ stages }) => stages.length)).toEqual([2, 1]);
  session.toggleStage(limiter);
  expect(state().against).toBeNull();
  session.toggleStage(limiter);
  session.comparison.hearWithout(limiter);
  session.removeStage(limiter);
  expect(state().against).toBeNull();
});

test('a duplicate stands right behind, opens, and takes the pins along', () => {
  session.setPins([{ stage: 'a', control: 'gainDb', value: -2 }]);
  turn(-2);
  session.duplicateStage('a');
  const { stages } = state().version.lane;
  expect(stages).toHaveLength(2);
  expect(stages[1]).toEqual({ ...stages[0], id: state().openStage });
  expect(state().version.pins.map(({ stage }) => stage)).toEqual(['a', stages[1].id]);
  for (let i = 0; i < 20; i++) session.duplicateStage('a');
  expect(state().version.lane.stages).toHaveLength(12);
});

test('a stage is copied into another track, ahead of the limiter at its end', async () => {
  turn(-2.5);
  expect(await session.copyStageTo('other', 'a')).toBe('First');
  const { lane, label, after } = server.saved.at(-1)!;
  expect([label, after]).toEqual(['Copy of trim from “Piece”', 4]);
  expect(lane.stages.map(({ id }) => id)).toEqual(['x', expect.any(String), 'l']);
  expect(lane.stages[1]).toMatchObject({ kind: 'trim', settings: { gainDb: -2.5 } });
  await expect(session.copyStageTo('other', 'gone')).rejects.toThrow('it is no longer there');
});

test('pins are saved at once, survive a save of the lane, and move up when a band goes', async () => {
  const pin = (control: string, value: number) => ({ stage: 'a', control, value });
  session.setPins([pin('bands.0.gainDb', 1), pin('bands.1.gainDb', 2), pin('bands.2.q', 3), pin('scalePercent', 80)]);
  await jest.advanceTimersByTimeAsync(10);
  expect(server.asked.at(-1)).toBe('PUT /api/versions/v/pins');
  turn(-1);
  await jest.advanceTimersByTimeAsync(300);
  expect(state().version.pins).toHaveLength(4);
  session.dropBandPins('a', 1);
  expect(state().version.pins).toEqual([pin('bands.0.gainDb', 1), pin('bands.1.q', 3), pin('scalePercent', 80)]);
  server.failing = true;
  session.setPins([]);
  await jest.advanceTimersByTimeAsync(10);
  expect(state().version.pins).toEqual([]);
});

test('the region of the open band is heard while it is wanted, and follows the band', () => {
  session.addStage('equalizer', 1);
  const id = state().openStage!;
  const bands = (...frequencies: number[]) => {
    const stage = state().version.lane.stages.find((each) => each.id === id) as Extract<Stage, { kind: 'equalizer' }>;
    session.setStage(stage, 'Bands', {
      bands: frequencies.map((frequencyHz) => equalizerBand.parse({ shape: 'bell', frequencyHz })),
    });
  };
  // Without a band there is no region.
  session.listening.hearRegion(true);
  expect(state().soloRegion).toBe(false);
  bands(500, 4000);
  session.listening.hearRegion(true);
  expect(lastSent('region')).toMatchObject({ bands: [{ frequencyHz: 500 }, { frequencyHz: 500 }] });
  session.openBand(1);
  expect(lastSent('region')).toMatchObject({ bands: [{ frequencyHz: 4000 }, { frequencyHz: 4000 }] });
  bands(500, 6000);
  expect(lastSent('region')).toMatchObject({ bands: [{ frequencyHz: 6000 }, { frequencyHz: 6000 }] });
  session.openStage('a');
  expect(lastSent('region')).toEqual({ type: 'region', bands: [] });
});

test('a preview is heard and neither saved nor measured', async () => {
  const measured = passes.length;
  session.preview((stages) => [...stages, LIMITER]);
  expect(lastSent('lane')).toMatchObject({ lane: { stages: [{ kind: 'trim' }, { kind: 'limiter' }] } });
  session.preview(null);
  expect(lastSent('lane')).toMatchObject({ lane: START.lane });
  await jest.advanceTimersByTimeAsync(500);
  expect(server.saved).toHaveLength(0);
  expect(passes).toHaveLength(measured);
});

test('only an equalizer can be made ready for a sweep, and leaving it ends that', () => {
  session.armSweep(true);
  expect(state().sweeping).toBe(false);
  session.addStage('equalizer', 1);
  session.armSweep(true);
  expect(state().sweeping).toBe(true);
  session.openStage('a');
  expect(state().sweeping).toBe(false);
});

test('the place in time is remembered from one visit to the next', async () => {
  session.board.push({ ...SILENT, frame: 22_050 });
  session.close();
  sent.length = 0;
  session = new WorkspaceSession(WORKSPACE);
  await session.open();
  expect(lastSent('seek')).toEqual({ type: 'seek', frame: 22_050 });
});

test('a pass is up to date only when nothing newer waits to be measured', async () => {
  const result = { joints: [], mix: reading(-20, -9), master: reading(-14, -1) } as unknown as Measurement;
  expect(state().passShare).toBe(0);
  listeners[0].onResult(result);
  expect(state().passShare).toBeNull();
  turn(-3);
  expect(state().passShare).toBe(0);
  // The older lane's result comes while the newer one waits.
  listeners[0].onResult(result);
  expect(state().passShare).toBe(0);
  await jest.advanceTimersByTimeAsync(100);
  listeners[0].onResult(result);
  expect(state().passShare).toBeNull();
});

test('a matched makeup follows the full pass and belongs to the step that it was measured for', async () => {
  session.addStage('compressor', 1);
  const compressor = () => state().version.lane.stages[1] as Extract<Stage, { kind: 'compressor' }>;
  session.setStage(compressor(), 'Matched makeup', { makeupMatched: true });
  await jest.advanceTimersByTimeAsync(400);
  const steps = server.saved.length;
  const joint = (integratedLufs: number) => ({ integratedLufs, truePeakDbtp: -3, samplePeakDbfs: -3 });
  const result = (...levels: number[]) =>
    ({ joints: levels.map(joint), mix: reading(-20, -9), master: reading(-21, -9) }) as unknown as Measurement;
  listeners[0].onResult(result(-20, -20, -21.5));
  expect(compressor().settings.makeupDb).toBeCloseTo(1.5, 5);
  await jest.advanceTimersByTimeAsync(400);
  expect(server.saved.slice(steps)).toMatchObject([{ amends: true, after: 1 }]);
  // As loud out as in: nothing more to do.
  listeners[0].onResult(result(-20, -20, -20.01));
  await jest.advanceTimersByTimeAsync(400);
  expect(server.saved).toHaveLength(steps + 1);
});

test('a crossover moves for the whole lane, bands split and join, and a band is heard alone', () => {
  session.addStage('bandDynamics', 1);
  const crossovers = () => state().version.lane.crossovers.frequenciesHz;
  session.moveCrossover(0, 300);
  expect(crossovers()).toEqual([300, 2500]);
  session.splitBand(1);
  expect(crossovers()).toEqual([300, 866, 2500]);
  session.openBand(1);
  session.listening.hearRegion(true);
  expect(sent.at(-1)).toMatchObject({
    type: 'region',
    bands: [
      { shape: 'highPass', frequencyHz: 300 },
      { shape: 'highPass', frequencyHz: 300 },
      { shape: 'lowPass', frequencyHz: 866 },
      { shape: 'lowPass', frequencyHz: 866 },
    ],
  });
  session.removeCrossover(1);
  expect(crossovers()).toEqual([300, 2500]);
  expect(sent.at(-1)).toMatchObject({ type: 'region', bands: [{ frequencyHz: 300 }, {}, { frequencyHz: 2500 }, {}] });
  session.openStage('a');
  expect(sent.at(-1)).toEqual({ type: 'region', bands: [] });
});

test('a room whose impulse response cannot be had gets another one, and says so', async () => {
  session.addStage('room', 1);
  const room = () => state().version.lane.stages[1] as Extract<Stage, { kind: 'room' }>;
  session.setStage(room(), 'Room', { response: 'file', file: 'gone' });
  const before = sent.length;
  await jest.advanceTimersByTimeAsync(10);
  expect(room().settings).toMatchObject({ response: 'studio', file: null });
  expect(state().problem).toMatch(/could not be fetched; the studio stands in/);
  expect(sent.slice(before).map(({ type }) => type)).toContain('lane');
});

test('two limiters come as one step, the first of them open', async () => {
  session.addLimiterPair(1);
  await jest.advanceTimersByTimeAsync(400);
  const { stages } = state().version.lane;
  expect(stages.map(({ kind }) => kind)).toEqual(['trim', 'limiter', 'limiter']);
  expect(stages.map(({ name }) => name)).toEqual([undefined, 'Character', 'Safety']);
  expect(stages[1].settings).toMatchObject({ detection: 'sample', emphasis: 'medium' });
  expect(stages[2].settings).toMatchObject({ detection: 'true8', inputGainDb: 0 });
  expect(state().openStage).toBe(stages[1].id);
  expect(server.saved).toHaveLength(1);
});

test('what is cut is heard until another stage is opened', () => {
  session.listening.hearRemoved(4.5);
  expect(state().hearsRemoved).toBe(true);
  expect(sent.at(-1)).toEqual({ type: 'removed', gainDb: 4.5 });
  session.openStage('a');
  expect(state().hearsRemoved).toBe(false);
  expect(sent).toContainEqual({ type: 'removed', gainDb: null });
});

test('a lane is driven to a loudness by passes of its own', async () => {
  const run = session.measureAt(-12);
  const passesBefore = passes.length;
  const measured = run.measure({ ...EMPTY_LANE, stages: [LIMITER] });
  const answer = (integratedLufs: number) =>
    listeners.at(-1)!.onResult({
      master: { integratedLufs, truePeakDbtp: -1, plrLu: -1 - integratedLufs, rangeLu: 5 },
      distortions: [],
    } as unknown as Measurement);
  const drives = () =>
    passes.slice(passesBefore).map(({ stages }) => (stages[0].settings as { inputGainDb: number }).inputGainDb);
  expect(drives()).toEqual([0]);
  answer(-15);
  await jest.advanceTimersByTimeAsync(1);
  expect(drives()).toEqual([0, 3]);
  answer(-12.01);
  await expect(measured).resolves.toMatchObject({ driveDb: 3, reached: true, plrLu: 11.01 });
  run.close();
});

test('a stage is called by a name, and by its kind again', async () => {
  const measured = passes.length;
  session.nameStage('a', 'Headroom');
  await jest.advanceTimersByTimeAsync(300);
  expect(passes).toHaveLength(measured);
  expect(server.saved.at(-1)).toMatchObject({ label: 'Name stage', lane: { stages: [{ name: 'Headroom' }] } });
  session.nameStage('a', '');
  expect(state().version.lane.stages).toEqual([TRIM]);
});
