import { mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { Worker } from 'node:worker_threads';
import { build } from 'esbuild';
import { noise, sine } from '../../../tests/support/signals';
import { LANE_SCHEMA, parseLane } from '../../core/lane/schema';
import { LaneMeasurer } from './lane-measurer';
import type { WatchResult } from './joint-watch';
import { RingWatcher } from './watch-ring';

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
        parentPort.on('message', (order) => parentPort.postMessage(measureRing(order)));`,
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

/** A pass whose joints are measured on the other thread. */
function passBesides(): { pass: LaneMeasurer; results: (WatchResult | null)[] } {
  const results: (WatchResult | null)[] = [];
  const pass = new LaneMeasurer(audio, { loudest: { start: RATE, end: 2 * RATE } });
  pass.watcher = (plan) =>
    new RingWatcher(
      plan,
      (order) =>
        new Promise((resolve) => {
          helper.once('message', (result: WatchResult | null) => {
            results.push(result);
            if (result) resolve(result);
          });
          helper.postMessage(order);
        }),
    );
  return { pass, results };
}

test('measured on another thread everything reads the same, to the last bit', async () => {
  const alone = await new LaneMeasurer(audio, { loudest: { start: RATE, end: 2 * RATE } }).run(lane, calm);
  const { pass } = passBesides();
  const beside = await pass.run(lane, calm);
  expect(beside).toEqual(alone);
  // The kept joint serves the other thread too.
  const moved = structuredClone(lane);
  if (moved.stages[3].kind === 'limiter') moved.stages[3].settings.inputGainDb = 9;
  expect(await pass.run(moved, calm)).toEqual(
    await new LaneMeasurer(audio, { loudest: { start: RATE, end: 2 * RATE } }).run(moved, calm),
  );
});

test('a pass that is overtaken lets the other thread go, which then measures the next', async () => {
  const { pass, results } = passBesides();
  let turns = 0;
  const overtaken = {
    turn: () => (++turns > 1 ? Promise.reject(new Error('overtaken')) : Promise.resolve()),
  };
  await expect(pass.run(lane, overtaken)).rejects.toThrow('overtaken');
  await new Promise((resolve) => setTimeout(resolve, 200));
  expect(results).toEqual([null]);
  const result = await pass.run(lane, calm);
  expect(result.joints).toHaveLength(5);
});
