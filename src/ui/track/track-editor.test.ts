import { edgesSchema } from '../../core/sequence/edges';
import { EMPTY_LANE, newStage, type Lane, type Stage } from '../../core/lane/schema';
import { equalizerBand } from '../../core/stages/equalizer/settings';
import type { LiveReadings, LiveRequest } from '../../engine/live/protocol';
import { BufferPool } from '../../engine/measure/buffers';
import type { RenderedMeasurement } from '../../engine/measure/measurement';
import { Cancelled, MeasuringQueue } from '../../engine/measure/queue';
import { MemoryBudget } from '../../engine/sources/memory-budget';
import type { StereoBuffer } from '../../engine/sources/places';
import type { VersionState } from '../../contracts/version';
import type { TrackDetails } from '../../contracts/track';
import { TrackEditor } from './track-editor';
import { toggleDim, useVolume } from './volume';

// What the page reaches through an audio context and workers is watched from outside.
const sent: LiveRequest[] = [];
/** Listening volumes in dB. */
const volumes: number[] = [];
/** Has the worklet fail. */
let failPlayer = () => {};
/** Lanes that were measured, in order. */
const measured: Lane[] = [];
/** What each runner of the queue is asked: the edited lane first, then everything else. */
const runners: { answer: (measurement: object) => void; fail: (error: Error) => void }[] = [];
jest.mock('../../engine/sources/mix-decoder', () => ({
  MixDecoder: class {
    push = () => Promise.resolve();
    finish = () => Promise.resolve({ left: new Float32Array(9), right: new Float32Array(9), sampleRate: 44100 });
  },
}));
jest.mock('../../engine/live/player', () => ({
  Player: {
    open: (_options: unknown, _onReadings: unknown, onFailure: () => void) => {
      failPlayer = onFailure;
      return Promise.resolve({
        send: (request: LiveRequest) => sent.push(request),
        play: () => Promise.resolve(),
        setVolume: (gainDb: number) => volumes.push(gainDb),
        time: 0,
        close: () => Promise.resolve(),
      });
    },
  },
}));
/** Levels that are asked for, and what they are. */
const spans: { start: number; end: number }[] = [];
jest.mock('../../engine/measure/level-runner', () => ({
  LevelRunner: class {
    measure = (_audio: unknown, span: { start: number; end: number }) => {
      spans.push(span);
      return Promise.resolve({ integratedLufs: -10 - spans.length, truePeakDbtp: -20 });
    };
    close = () => {};
  },
}));
jest.mock('../../engine/measure/worker-runner', () => ({
  openTrackMeasuring: () => {
    const budget = new MemoryBudget(1e6);
    const queue = new MeasuringQueue(
      (index) => {
        const runner = { answer: (_: object) => {}, fail: (_: Error) => {} };
        runners[index] = runner;
        const run = (lane: Lane, output: StereoBuffer | null) => {
          measured.push(lane);
          return new Promise<RenderedMeasurement>((resolve, reject) => {
            runner.answer = (measurement) => resolve({ ...output, ...measurement } as RenderedMeasurement);
            runner.fail = reject;
          });
        };
        return {
          run,
          render: run,
          abort: () => runner.fail(new Cancelled()),
          addImpulse: () => {},
          close: () => {},
        };
      },
      2,
      new BufferPool(9, budget, (frames) => new Float32Array(frames)),
    );
    return { queue, budget };
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
  createdAt: '2026-01-01T00:00:00.000Z',
});
const START = version(0, { ...EMPTY_LANE, stages: [TRIM] });
const TRACK = { id: 't', title: 'Piece', position: 1 };
const WORKSPACE = {
  track: TRACK,
  release: { id: 'r', title: 'Release', artist: '' },
  previousTrackId: null,
  nextTrackId: null,
  mix: { id: 'm', status: 'ready', source: { sampleRate: 44100 }, report: { loudest: { start: 3, end: 7 } } },
  mixes: [],
  tracks: [TRACK],
  versions: [START],
  destinations: [],
  deliveries: [],
  adjustments: [],
  tags: {},
  encodes: [],
  candidates: null,
  notes: [],
  references: [],
} as unknown as TrackDetails;

const LIMITER = newStage('limiter', 'l');
const OTHER = {
  ...WORKSPACE,
  mix: null,
  track: { id: 'other', title: 'Another', position: 2, chosenVersionId: 'w' },
  versions: [
    { ...version(0, EMPTY_LANE), id: 'earlier' },
    { ...version(4, { ...EMPTY_LANE, stages: [newStage('trim', 'x'), LIMITER] }), id: 'w' },
  ],
};

const SILENT: LiveReadings = {
  frame: 0,
  playing: false,
  joints: [],
  gainReduction: [],
  movements: [],
  bandReductions: [],
  correlations: [],
  bandLevels: [],
  tapLead: 0,
  instruments: [],
  heard: {
    samplePeaksDbfs: [-70, -70],
    truePeaksDbtp: [-70, -70],
    momentaryLufs: -70,
    shortTermLufs: -70,
    integratedLufs: -70,
  },
  played: { mixLufs: -70, laneLufs: -70 },
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
      return Promise.resolve(Response.json({ error: 'The database can’t be reached right now.' }, { status: 503 }));
    if (/\/(pins|candidates)$/.test(address)) return Promise.resolve(new Response(null, { status: 204 }));
    if (address === '/api/tracks/other') return Promise.resolve(Response.json(OTHER));
    if (address.endsWith('/undo')) return Promise.resolve(Response.json(START));
    const body = JSON.parse(init.body!) as Server['saved'][number];
    this.saved.push(body);
    return Promise.resolve(Response.json(version(body.after + (body.amends ? 0 : 1), body.lane)));
  };
}

let server: Server;
let editor: TrackEditor;
const lane = () => editor.lane.store.getState();
const selected = () => editor.selection.store.getState();
const heard = () => editor.audition.store.getState();
const candidate = (id: string) => editor.candidates.entry(id);
const results = () => editor.measurements.store.getState();
const problem = () => editor.track.store.getState().problem;
/** Lets promises and timers that are due come through. */
const moment = (ms = 1) => jest.advanceTimersByTimeAsync(ms);
/** Ends the measurement of the edited lane, or another one. */
const answer = async (measurement: object, runner = 0) => {
  runners[runner].answer(measurement);
  await moment();
};
const gain = (lane: Lane) => (lane.stages[0]?.kind === 'trim' ? lane.stages[0].settings.gainDb : null);
const turn = (gainDb: number) => editor.lane.setStage(TRIM, 'Gain', { gainDb });

beforeEach(async () => {
  jest.useFakeTimers();
  sent.length = 0;
  measured.length = 0;
  spans.length = 0;
  runners.length = 0;
  server = new Server();
  const kept = new Map<string, string>();
  Object.assign(globalThis, {
    fetch: server.fetch,
    localStorage: {
      getItem: (key: string) => kept.get(key) ?? null,
      setItem: (key: string, value: string) => kept.set(key, value),
    },
  });
  editor = new TrackEditor(WORKSPACE);
  await editor.open();
  await moment(100);
});
afterEach(() => {
  editor.close();
  jest.useRealTimers();
});

test('a change is heard at once, saved in a moment and measured', async () => {
  turn(-3);
  expect(lastSent('lane')).toMatchObject({ lane: { stages: [{ settings: { gainDb: -3 } }] } });
  expect(lane().saving).toBe('saving');
  expect(server.saved).toHaveLength(0);
  await jest.advanceTimersByTimeAsync(600);
  expect(server.saved).toMatchObject([{ label: 'Gain: 0.0 → −3.0 dB', after: 0 }]);
  expect(lane()).toMatchObject({ saving: 'saved', version: { step: 1 } });
  expect(gain(measured.at(-1)!)).toBe(-3);
});

test('changes that follow quickly become one step with the last value', async () => {
  for (const gainDb of [-1, -2, -3, -4]) {
    turn(gainDb);
    await jest.advanceTimersByTimeAsync(100);
  }
  await jest.advanceTimersByTimeAsync(600);
  expect(server.saved.map(({ lane }) => gain(lane))).toEqual([-4]);
});

test('what cannot be saved now is kept and saved by itself when the server is back; until then no other version opens', async () => {
  server.failing = true;
  turn(-5);
  await jest.advanceTimersByTimeAsync(600);
  expect(lane()).toMatchObject({ saving: 'waiting', unsaved: ['Gain: 0.0 → −5.0 dB'] });
  expect(problem()).toBeNull();
  await editor.switchVersion('v');
  expect(problem()).toContain('The last changes are not saved yet.');
  turn(-7);
  await jest.advanceTimersByTimeAsync(600);
  await editor.lane.step('undo');
  expect(gain(lane().version.lane)).toBe(-5);
  server.failing = false;
  await jest.advanceTimersByTimeAsync(20_000);
  expect(server.saved.map(({ lane }) => gain(lane))).toEqual([-5]);
  expect(lane()).toMatchObject({ saving: 'saved', unsaved: [] });
});

test('what is undone while another version opens is a step of that one, and what is changed stays where it was', async () => {
  const other = {
    ...version(4, { ...EMPTY_LANE, stages: [newStage('trim', 'x'), LIMITER] }),
    id: 'w',
    undo: 'Limiter',
  };
  let arrive = (_: TrackDetails) => {};
  editor.track.refresh = () => new Promise((resolve) => (arrive = resolve));
  const { fetch } = server;
  globalThis.fetch = ((address: string, init?: { method?: string; body?: string }) =>
    address === '/api/versions/w/undo'
      ? Promise.resolve(Response.json({ ...other, step: 3, lane: EMPTY_LANE }))
      : fetch(address, init)) as typeof globalThis.fetch;
  turn(-3);
  await moment(600);
  void editor.switchVersion('w');
  await moment(10);
  void editor.lane.step('undo');
  turn(-4);
  await moment(10);
  arrive({ ...WORKSPACE, versions: [START, other] });
  await moment(600);
  expect(server.saved.map(({ lane }) => gain(lane))).toEqual([-3, -4]);
  expect(lane()).toMatchObject({ version: { id: 'w', step: 3, lane: { stages: [] } }, saving: 'saved' });
  expect(problem()).toBeNull();
});

test('undo pressed quickly while the server is away takes a step with each press', async () => {
  for (const gainDb of [-1, -2]) {
    turn(gainDb);
    await moment(600);
  }
  server.failing = true;
  turn(-3);
  await moment(600);
  for (let i = 0; i < 3; i++) void editor.lane.step('undo');
  await moment(50);
  expect(gain(lane().version.lane)).toBe(0);
  expect(lane().unsaved).toHaveLength(2);
  for (let i = 0; i < 3; i++) void editor.lane.step('redo');
  await moment(50);
  expect(gain(lane().version.lane)).toBe(-3);
  expect(problem()).toBeNull();
  server.failing = false;
  await moment(20_000);
  expect(lane()).toMatchObject({ saving: 'saved', unsaved: [] });
});

test('a worklet that fails is said, and the page does not look as if it played', () => {
  editor.transport.report(true, 0);
  failPlayer();
  expect(editor.transport.store.getState().playing).toBe(false);
  expect(problem()).toContain('reload the page');
});

test('undo first saves what is not saved, and is heard', async () => {
  turn(-6);
  await editor.lane.step('undo');
  expect(server.asked.slice(-2)).toEqual(['PUT /api/versions/v/lane', 'POST /api/versions/v/undo']);
  expect(gain(lane().version.lane)).toBe(0);
  expect(sent.filter(({ type }) => type === 'lane').at(-1)).toMatchObject({ lane: START.lane });
});

test('a problem of another kind outlives a save', async () => {
  editor.track.report('x.json: It is not JSON.');
  turn(-1);
  await jest.advanceTimersByTimeAsync(600);
  expect(lane().saving).toBe('saved');
  expect(problem()).toBe('x.json: It is not JSON.');
});

test('a removed stage gives way to its neighbour; added and moved ones keep their order', () => {
  editor.addStage('limiter', 1);
  editor.addStage('equalizer', 1);
  const kinds = () => lane().version.lane.stages.map(({ kind }) => kind);
  expect(kinds()).toEqual(['trim', 'equalizer', 'limiter']);
  editor.lane.move('a', 2);
  expect(kinds()).toEqual(['equalizer', 'limiter', 'trim']);
  editor.openStage('a');
  editor.removeStage('a');
  expect(kinds()).toEqual(['equalizer', 'limiter']);
  expect(selected().stage).toBe(lane().version.lane.stages[1].id);
  editor.lane.toggle(selected().stage!);
  expect(lane().version.lane.stages[1].on).toBe(false);
});

const reading = (integratedLufs: number, truePeakDbtp: number) => ({ integratedLufs, truePeakDbtp });

test('mix and master are matched by what was measured, by loudness, by true peak, or not at all', async () => {
  expect(heard().estimated).toBe(true);
  await answer({ joints: [], mix: reading(-20, -9), master: reading(-14, -1) });
  expect(heard()).toMatchObject({ estimated: false, gainsDb: { mix: 6, lane: 0 } });
  expect(sent.at(-1)).toEqual({ type: 'gains', gainsDb: { mix: 6, lane: 0 } });
  editor.audition.setMatching('truePeak');
  expect(sent.at(-1)).toEqual({ type: 'gains', gainsDb: { mix: 8, lane: 0 } });
  editor.audition.setMatching('none');
  expect(sent.at(-1)).toEqual({ type: 'gains', gainsDb: { mix: 0, lane: 0 } });
});

test('a measurement that fails says why', async () => {
  for (let tries = 0; tries < 2; tries++) {
    runners[0].fail(new Error('The measuring thread failed.'));
    await moment();
  }
  expect(results()).toMatchObject({ problem: 'The measuring thread failed.', share: null });
});

test('the listening volume goes to the loudspeakers alone', () => {
  const before = sent.length;
  useVolume.setState({ volumeDb: -12 });
  expect(volumes.at(-1)).toBe(-12);
  toggleDim();
  expect(volumes.at(-1)).toBe(-32);
  toggleDim();
  useVolume.setState({ volumeDb: 0 });
  expect(volumes.at(-1)).toBe(0);
  expect(sent).toHaveLength(before);
});

test('the view of a track is remembered, and what does not exist any more is left out', async () => {
  editor.addStage('limiter', 1);
  editor.transport.setLoop({ start: 100, end: 900 });
  const opened = selected().stage;
  await jest.advanceTimersByTimeAsync(600);
  const again = new TrackEditor({ ...WORKSPACE, versions: [lane().version] });
  expect(again.selection.store.getState().stage).toBe(opened);
  expect(again.transport.store.getState().loop).toEqual({ start: 100, end: 900 });
  expect(new TrackEditor(WORKSPACE).selection.store.getState().stage).toBe('a');
});

test('quick steps through the track start where the one before them goes, not where the music still is', () => {
  const frames = (): number[] => sent.flatMap((request) => (request.type === 'seek' ? [request.frame] : []));
  editor.track.ready({ left: new Float32Array(60 * 44100), right: new Float32Array(60 * 44100), sampleRate: 44100 });
  for (let i = 0; i < 3; i++) editor.navigation.skip(5);
  expect(frames()).toEqual([5, 10, 15].map((seconds) => seconds * 44100));
  // A reading from before that.
  editor.transport.report(true, 0);
  editor.navigation.skip(-5);
  expect(frames().at(-1)).toBe(10 * 44100);
  // It has arrived, and plays on.
  editor.transport.report(true, 10 * 44100 + 500);
  expect(editor.transport.here(11 * 44100)).toBe(11 * 44100);
  for (let i = 0; i < 20; i++) editor.navigation.skip(-5);
  expect(frames().at(-1)).toBe(0);
});

const lastSent = (type: LiveRequest['type']) => sent.filter((request) => request.type === type).at(-1);

const joints = (...levels: number[]) =>
  levels.map((integratedLufs) => ({ integratedLufs, truePeakDbtp: -3, samplePeakDbfs: -3 }));

test('the lane without a stage is rendered first, then heard and matched by what was measured of it', async () => {
  editor.addStage('limiter', 1);
  await moment(100);
  await answer({ joints: joints(-20, -20, -14), mix: reading(-20, -6), master: reading(-14, -1) });
  editor.audition.hearWithout('a');
  expect(heard()).toMatchObject({ heard: 'without-a', other: 'lane' });
  expect(candidate('without-a')).toMatchObject({ share: 0, short: 'Without trim' });
  // Until then the master is heard.
  expect(lastSent('hear')).toEqual({ type: 'hear', source: 'lane', less: null });
  await moment();
  expect(measured.at(-1)!.stages.map(({ kind }) => kind)).toEqual(['limiter']);
  await answer({ master: reading(-13, -1) }, 1);
  expect(lastSent('source')).toMatchObject({ id: 'without-a', buffer: { left: new Float32Array(9) } });
  expect(lastSent('hear')).toEqual({ type: 'hear', source: 'without-a', less: null });
  expect(candidate('without-a')).toMatchObject({ share: null });
  // As loud as the mix can be made without clipping: 6 dB up.
  expect(heard().gainsDb).toEqual({ mix: 6, lane: 0, 'without-a': -1 });
  editor.audition.toggle();
  editor.audition.hearDifference(true);
  expect(lastSent('hear')).toEqual({ type: 'hear', source: 'lane', less: 'without-a' });
  editor.hearWithout('a');
  expect(heard()).toMatchObject({ heard: 'lane', difference: false, estimated: false });
  expect(lastSent('source')).toEqual({ type: 'source', id: 'without-a', buffer: null });
  expect(heard().gainsDb).toEqual({ mix: 6, lane: 0 });
});

test('a compared lane follows the changes of the others; a stage that goes or is off ends the comparison', async () => {
  editor.addStage('limiter', 1);
  const limiter = selected().stage!;
  editor.audition.hearWithout(limiter);
  // Without it the lane is the one that is being measured: both share that.
  await answer({ joints: [], mix: reading(-20, -6), master: reading(-20, -6) });
  turn(-4);
  await moment(100);
  expect(
    measured
      .slice(-2)
      .map(({ stages }) => stages.length)
      .sort(),
  ).toEqual([1, 2]);
  // What was rendered is heard until the newer one is there.
  expect(lastSent('hear')).toEqual({ type: 'hear', source: `without-${limiter}`, less: null });
  editor.lane.toggle(limiter);
  expect(candidate(`without-${limiter}`)).toBeUndefined();
  expect(heard().heard).toBe('lane');
  editor.lane.toggle(limiter);
  editor.audition.hearWithout(limiter);
  editor.removeStage(limiter);
  expect(heard().heard).toBe('lane');
});

test('a candidate that can’t be rendered says why, and the master is heard in its place', async () => {
  editor.audition.hearWithout('a');
  await moment();
  runners[1].fail(new Error('There is no memory for another rendered lane.'));
  await moment();
  expect(candidate('without-a')?.problem).toMatch(/no memory/);
  expect(lastSent('hear')).toEqual({ type: 'hear', source: 'lane', less: null });
});

test('a duplicate goes right after its stage, opens, and takes the pins along', () => {
  editor.lane.setPins([{ stage: 'a', control: 'gainDb', value: -2 }]);
  turn(-2);
  editor.duplicateStage('a');
  const { stages } = lane().version.lane;
  expect(stages).toHaveLength(2);
  expect(stages[1]).toEqual({ ...stages[0], id: selected().stage });
  expect(lane().version.pins.map(({ stage }) => stage)).toEqual(['a', stages[1].id]);
  for (let i = 0; i < 20; i++) editor.duplicateStage('a');
  expect(lane().version.lane.stages).toHaveLength(12);
});

test('a stage is copied into another track, before the limiter at its end', async () => {
  turn(-2.5);
  expect(await editor.copyStageTo('other', 'a')).toBe('First');
  const { lane: saved, label, after } = server.saved.at(-1)!;
  expect([label, after]).toEqual(['Copy of trim from “Piece”', 4]);
  expect(saved.stages.map(({ id }) => id)).toEqual(['x', expect.any(String), 'l']);
  expect(saved.stages[1]).toMatchObject({ kind: 'trim', settings: { gainDb: -2.5 } });
  await expect(editor.copyStageTo('other', 'gone')).rejects.toThrow('it no longer exists');
});

test('a lane is copied to other tracks without its edges', async () => {
  turn(-2.5);
  editor.lane.setEdges('Start', edgesSchema.parse({ startSeconds: 1 }));
  expect(lane().version.lane.edges).toMatchObject({ startSeconds: 1 });
  await editor.copyLaneTo(['other']);
  const { lane: saved, label } = server.saved.at(-1)!;
  expect(label).toBe('Lane of “Piece”');
  expect(saved.stages).toEqual(lane().version.lane.stages);
  expect(saved.edges).toBeUndefined();
});

test('pins are saved at once, survive a save of the lane, and move up when a band goes', async () => {
  const pin = (control: string, value: number) => ({ stage: 'a', control, value });
  editor.lane.setPins([
    pin('bands.0.gainDb', 1),
    pin('bands.1.gainDb', 2),
    pin('bands.2.q', 3),
    pin('scalePercent', 80),
  ]);
  await jest.advanceTimersByTimeAsync(10);
  expect(server.asked.at(-1)).toBe('PUT /api/versions/v/pins');
  turn(-1);
  await jest.advanceTimersByTimeAsync(600);
  expect(lane().version.pins).toHaveLength(4);
  editor.lane.dropBandPins('a', 1);
  expect(lane().version.pins).toEqual([pin('bands.0.gainDb', 1), pin('bands.1.q', 3), pin('scalePercent', 80)]);
  server.failing = true;
  editor.lane.setPins([]);
  await jest.advanceTimersByTimeAsync(10);
  expect(lane().version.pins).toEqual([]);
});

test('the region of the open band is heard while it is wanted, and follows the band', () => {
  editor.addStage('equalizer', 1);
  const id = selected().stage!;
  const bands = (...frequencies: number[]) => {
    const stage = lane().version.lane.stages.find((each) => each.id === id) as Extract<Stage, { kind: 'equalizer' }>;
    editor.lane.setStage(stage, 'Bands', {
      bands: frequencies.map((frequencyHz) => equalizerBand.parse({ shape: 'bell', frequencyHz })),
    });
  };
  // Without a band there is no region.
  editor.audition.hearRegion(true);
  expect(heard().soloRegion).toBe(false);
  bands(500, 4000);
  editor.audition.hearRegion(true);
  expect(lastSent('region')).toMatchObject({ bands: [{ frequencyHz: 500 }, { frequencyHz: 500 }] });
  editor.selection.openBand(1);
  expect(lastSent('region')).toMatchObject({ bands: [{ frequencyHz: 4000 }, { frequencyHz: 4000 }] });
  bands(500, 6000);
  expect(lastSent('region')).toMatchObject({ bands: [{ frequencyHz: 6000 }, { frequencyHz: 6000 }] });
  editor.openStage('a');
  expect(lastSent('region')).toMatchObject({ type: 'region', bands: [] });
});

test('a preview is heard and neither saved nor measured', async () => {
  const before = measured.length;
  editor.audition.preview((stages) => [...stages, LIMITER]);
  expect(lastSent('lane')).toMatchObject({ lane: { stages: [{ kind: 'trim' }, { kind: 'limiter' }] } });
  editor.audition.preview(null);
  expect(lastSent('lane')).toMatchObject({ lane: START.lane });
  await jest.advanceTimersByTimeAsync(500);
  expect(server.saved).toHaveLength(0);
  expect(measured).toHaveLength(before);
});

test('only an equalizer can be made ready for a sweep, and leaving it ends that', () => {
  editor.armSweep(true);
  expect(selected().sweeping).toBe(false);
  editor.addStage('equalizer', 1);
  editor.armSweep(true);
  expect(selected().sweeping).toBe(true);
  editor.openStage('a');
  expect(selected().sweeping).toBe(false);
});

test('the place in time is remembered from one visit to the next', async () => {
  editor.board.push({ ...SILENT, frame: 22_050 });
  editor.close();
  sent.length = 0;
  editor = new TrackEditor(WORKSPACE);
  await editor.open();
  expect(lastSent('seek')).toEqual({ type: 'seek', frame: 22_050 });
});

test('a measurement is up to date only when nothing newer waits', async () => {
  const result = { joints: [], mix: reading(-20, -9), master: reading(-14, -1) };
  expect(results().share).toBe(0);
  await answer(result);
  expect(results().share).toBeNull();
  turn(-3);
  await moment(100);
  turn(-4);
  expect(results().share).toBe(0);
  // The older lane's result comes while the newer one waits.
  await answer(result);
  expect(results().share).toBe(0);
  await moment(100);
  await answer(result);
  expect(results().share).toBeNull();
});

test('auto makeup follows the measurement and belongs to the step that was measured', async () => {
  editor.addStage('compressor', 1);
  const compressor = () => lane().version.lane.stages[1] as Extract<Stage, { kind: 'compressor' }>;
  editor.lane.setStage(compressor(), 'Auto makeup', { makeupMatched: true });
  await moment(700);
  const steps = server.saved.length;
  const result = (...levels: number[]) => ({
    joints: joints(...levels),
    mix: reading(-20, -9),
    master: reading(-21, -9),
  });
  await answer(result(-20, -20, -21.5));
  expect(compressor().settings.makeupDb).toBeCloseTo(1.5, 5);
  await moment(700);
  expect(server.saved.slice(steps)).toMatchObject([{ amends: true, after: 2 }]);
  // As loud out as in: nothing more to do.
  await answer(result(-20, -20, -20.01));
  await moment(700);
  expect(server.saved).toHaveLength(steps + 1);
});

test('a crossover moves for the whole lane, bands split and merge, and a band is soloed', () => {
  editor.addStage('bandDynamics', 1);
  const crossovers = () => lane().version.lane.crossovers.frequenciesHz;
  editor.lane.moveCrossover(0, 300);
  expect(crossovers()).toEqual([300, 2500]);
  editor.lane.splitBand(1);
  expect(crossovers()).toEqual([300, 866, 2500]);
  editor.selection.openBand(1);
  editor.audition.hearRegion(true);
  expect(sent.at(-1)).toMatchObject({
    type: 'region',
    bands: [
      { shape: 'highPass', frequencyHz: 300 },
      { shape: 'highPass', frequencyHz: 300 },
      { shape: 'lowPass', frequencyHz: 866 },
      { shape: 'lowPass', frequencyHz: 866 },
    ],
  });
  editor.removeCrossover(1);
  expect(crossovers()).toEqual([300, 2500]);
  expect(sent.at(-1)).toMatchObject({ type: 'region', bands: [{ frequencyHz: 300 }, {}, { frequencyHz: 2500 }, {}] });
  editor.openStage('a');
  expect(sent.at(-1)).toMatchObject({ type: 'region', bands: [] });
});

test('a room whose impulse response can’t be had gets another one, and says so', async () => {
  editor.addStage('room', 1);
  const room = () => lane().version.lane.stages[1] as Extract<Stage, { kind: 'room' }>;
  editor.lane.setStage(room(), 'Room', { impulse: 'file', file: 'gone' });
  const before = sent.length;
  await jest.advanceTimersByTimeAsync(10);
  expect(room().settings).toMatchObject({ impulse: 'studio', file: null });
  expect(problem()).toMatch(/could not be loaded, so the studio is used instead/);
  expect(sent.slice(before).map(({ type }) => type)).toContain('lane');
});

test('two limiters come as one step, the first of them open', async () => {
  editor.addLimiterPair(1);
  await jest.advanceTimersByTimeAsync(600);
  const { stages } = lane().version.lane;
  expect(stages.map(({ kind }) => kind)).toEqual(['trim', 'limiter', 'limiter']);
  expect(stages.map(({ name }) => name)).toEqual([undefined, 'Character', 'Safety']);
  expect(stages[1].settings).toMatchObject({ detection: 'sample', emphasisDb: 2 });
  expect(stages[2].settings).toMatchObject({ detection: 'true8', inputGainDb: 0 });
  expect(selected().stage).toBe(stages[1].id);
  expect(server.saved).toHaveLength(1);
});

test('what is cut is heard until another stage is opened', () => {
  editor.audition.hearRemoved(4.5);
  expect(heard().hearsRemoved).toBe(true);
  expect(sent.at(-1)).toEqual({ type: 'removed', gainDb: 4.5 });
  editor.openStage('a');
  expect(heard().hearsRemoved).toBe(false);
  expect(sent).toContainEqual({ type: 'removed', gainDb: null });
});

test('a lane is driven to a loudness by measurements of its own', async () => {
  const run = editor.measurements.matchLoudness(-12);
  const before = measured.length;
  const found = run.measure({ ...EMPTY_LANE, stages: [LIMITER] });
  const measuredAs = (integratedLufs: number) =>
    answer(
      { master: { integratedLufs, truePeakDbtp: -1, plrLu: -1 - integratedLufs, rangeLu: 5 }, distortions: [] },
      1,
    );
  const drives = () =>
    measured.slice(before).map(({ stages }) => (stages[0].settings as { inputGainDb: number }).inputGainDb);
  await moment();
  expect(drives()).toEqual([0]);
  await measuredAs(-15);
  expect(drives()).toEqual([0, 3]);
  await measuredAs(-12.01);
  await expect(found).resolves.toMatchObject({ driveDb: 3, reached: true, plrLu: 11.01 });
  run.close();
});

test('a stage takes a name, and that of its kind again; neither is measured', async () => {
  const before = measured.length;
  editor.lane.nameStage('a', 'Headroom');
  await jest.advanceTimersByTimeAsync(600);
  expect(measured).toHaveLength(before);
  expect(server.saved.at(-1)).toMatchObject({ label: 'Name stage', lane: { stages: [{ name: 'Headroom' }] } });
  editor.lane.nameStage('a', '');
  expect(lane().version.lane.stages).toEqual([TRIM]);
});

test('ending one comparison leaves the others, and a tenth candidate is refused in words', () => {
  for (let i = 0; i < 9; i++) editor.duplicateStage('a');
  const ids = lane().version.lane.stages.map(({ id }) => id);
  for (const id of ids.slice(0, 3)) editor.hearWithout(id);
  editor.hearWithout(ids[1]);
  const chosen = () => editor.candidates.store.getState().entries.map(({ id }) => id);
  expect(chosen()).toEqual(['mix', 'lane', `without-${ids[0]}`, `without-${ids[2]}`]);
  for (const id of ids.slice(3)) editor.audition.hearWithout(id);
  expect(chosen()).toHaveLength(9);
  expect(problem()).toBe('There are keys for 9 candidates. Remove one to add another.');
});
