import { once } from 'node:events';
import { mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { Worker } from 'node:worker_threads';
import { build } from 'esbuild';
import { noise, sine } from '../../../tests/support/signals';
import { LANE_SCHEMA, parseLane } from '../../core/lane/schema';
import { LaneMeasurer } from './lane-measurer';
import type { WatchResult } from './joint-watch';
import { RingWatcher, type WatchOrder } from './watch-ring';

const RATE = 44100;
const hiss = noise(3 * RATE, 0.3, 9);
const left = Float32Array.from(sine(330, -8, 3, RATE), (x, i) => x + hiss[i]);
const audio = { left, right: left.map((x, i) => x * 0.8 - 0.1 * hiss[i]), sampleRate: RATE };
const lane = parseLane({
  schema: LANE_SCHEMA,
  stages: [
    { id: 'e', kind: 'equalizer', settings: { bands: [{ shape: 'bell', frequencyHz: 900, gainDb: 4 }] } },
    { id: 's', kind: 'stereo', settings: { widthsPercent: [50, 100, 120, 100, 100] } },
    { id: 'c', kind: 'clipper', settings: { ceilingDbfs: -6 } },
    { id: 'l', kind: 'limiter', settings: { inputGainDb: 5 } },
  ],
});
const calm = { turn: () => Promise.resolve() };

let folder: string;
let helper: Worker;
beforeAll(async () => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'copper-ring-'));
  const outfile = path.join(folder, 'measure.mjs');
  // The thread measures whatever ring it is given, as the browser's worker does.
  await build({
    stdin: {
      contents: `import { parentPort } from 'node:worker_threads';
        import { measureRing } from './src/engine/measure/watch-ring';
        parentPort.on('message', (order) => {
          if (order === 'never') return;
          try {
            parentPort.postMessage(measureRing(order));
          } catch (error) {
            parentPort.postMessage({ problem: error.message });
          }
        });`,
      resolveDir: process.cwd(),
    },
    bundle: true,
    platform: 'node',
    format: 'esm',
    outfile,
  });
  helper = new Worker(outfile);
  await new Promise((resolve) => helper.once('online', resolve));
});
afterAll(async () => {
  await helper.terminate();
  rmSync(folder, { recursive: true });
});

/** A measurer whose joints are measured on the other thread; `told` is what that thread gets in place of its order. */
function onOtherThread(told?: (order: WatchOrder) => unknown, patienceMs?: number) {
  const results: (WatchResult | null)[] = [];
  const measurer = new LaneMeasurer(audio, { loudest: { start: RATE, end: 2 * RATE } });
  measurer.watcher = (plan) =>
    new RingWatcher(
      plan,
      (order) =>
        new Promise((resolve, reject) => {
          helper.once('message', (result: (WatchResult & { problem?: string }) | null) => {
            results.push(result);
            if (result?.problem) reject(new Error(result.problem));
            else if (result) resolve(result);
          });
          helper.postMessage(told ? told(order) : order);
        }),
      patienceMs,
    );
  return { measurer, results };
}

test('measured on another thread everything reads the same, to the last bit', async () => {
  const alone = await new LaneMeasurer(audio, { loudest: { start: RATE, end: 2 * RATE } }).run(lane, calm);
  const { measurer } = onOtherThread();
  expect(await measurer.run(lane, calm)).toEqual(alone);
  // The kept joint serves the other thread too.
  const moved = structuredClone(lane);
  if (moved.stages[3].kind === 'limiter') moved.stages[3].settings.inputGainDb = 9;
  expect(await measurer.run(moved, calm)).toEqual(
    await new LaneMeasurer(audio, { loudest: { start: RATE, end: 2 * RATE } }).run(moved, calm),
  );
});

test('a run that is overtaken lets the other thread go, which then measures the next', async () => {
  const { measurer, results } = onOtherThread();
  let turns = 0;
  const overtaken = {
    turn: () => (++turns > 1 ? Promise.reject(new Error('overtaken')) : Promise.resolve()),
  };
  const answered = once(helper, 'message');
  await expect(measurer.run(lane, overtaken)).rejects.toThrow('overtaken');
  await answered;
  expect(results).toEqual([null]);
  const result = await measurer.run(lane, calm);
  expect(result.joints).toHaveLength(5);
});

test('a measuring thread that throws ends the run with its reason', async () => {
  const { measurer } = onOtherThread(({ plan, ring }) => ({ plan: { ...plan, stages: null }, ring }));
  await expect(measurer.run(lane, calm)).rejects.toThrow(/null/);
});

test('a measuring thread that never answers ends the run in time', async () => {
  const { measurer } = onOtherThread(() => 'never', 50);
  await expect(measurer.run(lane, calm)).rejects.toThrow(/stopped answering/);
});
