import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { expect, test } from '@playwright/test';
import { LaneProcessor } from '@/core/lane/processor';
import { LANE_SCHEMA, parseLane } from '@/core/lane/schema';
import { LaneMeasurer } from '@/engine/measure/lane-measurer';
import { music } from '../support/music';
import { writeWave } from '../support/wave';
import { Desk } from './desk';

const RATE = 44100;
const SECONDS = 5;
const LANE = parseLane({
  schema: LANE_SCHEMA,
  crossovers: { frequenciesHz: [180, 2600], phase: 'linear' },
  stages: [
    { id: 'trim', kind: 'trim', settings: { gainDb: 2.5 } },
    {
      id: 'equalizer',
      kind: 'equalizer',
      settings: {
        bands: [
          { shape: 'highPass', frequencyHz: 31, slopeDbPerOctave: 36 },
          { shape: 'bell', frequencyHz: 3400, gainDb: -4.3, q: 6 },
          { shape: 'highShelf', frequencyHz: 9000, gainDb: 2 },
          { shape: 'lowShelf', frequencyHz: 160, dynamics: { thresholdDbfs: -30, rangeDb: -5 } },
          { shape: 'bell', part: 'side', frequencyHz: 5000, gainDb: 1, dynamics: { thresholdDbfs: -50, rangeDb: 3 } },
        ],
      },
    },
    {
      id: 'linear',
      kind: 'equalizer',
      settings: {
        phase: 'linear',
        bands: [
          { shape: 'bell', frequencyHz: 240, gainDb: -2, q: 1.5 },
          { shape: 'highPass', part: 'side', frequencyHz: 110, slopeDbPerOctave: 24 },
        ],
      },
    },
    { id: 'de-esser', kind: 'deEsser', settings: { thresholdDb: -20 } },
    {
      id: 'compressor',
      kind: 'compressor',
      settings: { circuit: 'fet', thresholdDbfs: -24, ratio: 3, autoRelease: true, lookAheadMs: 1, sideChainTiltDb: 2 },
    },
    {
      id: 'bands',
      kind: 'bandDynamics',
      settings: {
        bands: [
          { compression: { ratio: 3 } },
          { expansion: { ratio: 2, thresholdDbfs: -30 } },
          { limiting: { thresholdDbfs: -34 }, makeupDb: 2 },
          {},
          {},
        ],
      },
    },
    { id: 'stereo', kind: 'stereo', settings: { monoBelow: true, widthsPercent: [60, 100, 130, 100, 100] } },
    { id: 'room', kind: 'room', settings: { impulse: 'hall', wetDb: -18 } },
    {
      id: 'saturation',
      kind: 'saturation',
      settings: {
        curve: 'mixedFirm',
        driveDb: 10,
        biasPercent: 20,
        toneBeforeDb: 3,
        protectBelowHz: 90,
        movement: 'level',
        // Measured again on the server, it would be another lane there.
        makeupMatched: false,
        oversampling: { listening: 4, delivery: 4, phase: 'least' },
      },
    },
    {
      id: 'clipper',
      kind: 'clipper',
      settings: { curve: 'smooth', ceilingDbfs: -4, truePeaks: true, oversampling: { listening: 8, delivery: 8 } },
    },
    {
      id: 'limiter',
      kind: 'limiter',
      settings: { inputGainDb: 7, autoRecoveryPercent: 100, emphasisDb: 2, linkPercent: 50, detection: 'true8' },
    },
  ],
});
const hash = (x: Float32Array) =>
  createHash('sha256')
    .update(Buffer.from(x.buffer, x.byteOffset, x.byteLength))
    .digest('hex');

test('the same lane gives the same bits in the worklet, the browser’s worker and on the server', async ({ page }) => {
  // Notes which worklet and which worker the page itself loads.
  await page.addInitScript(() => {
    const noted = window as unknown as { workletUrl: string; workerUrl: string };
    const add = AudioWorklet.prototype.addModule;
    AudioWorklet.prototype.addModule = function (this: AudioWorklet, address: string | URL) {
      noted.workletUrl = String(address);
      return add.call(this, address);
    };
    window.Worker = new Proxy(Worker, {
      construct(target, args: [string | URL, WorkerOptions?]) {
        noted.workerUrl ??= String(args[0]);
        return new target(...args);
      },
    });
  });
  const desk = new Desk(page);
  await desk.signIn();
  await desk.openDemoTrack('Perihelion');
  const { workletUrl, workerUrl } = await page.evaluate(() => {
    const noted = window as unknown as { workletUrl: string; workerUrl: string };
    return { workletUrl: noted.workletUrl, workerUrl: noted.workerUrl };
  });

  const signal = music(SECONDS, RATE, 0.4);
  const sides = [signal.left, signal.right].map((side) =>
    Float32Array.from(side, (x) => Math.round(x * 8388608) / 8388608),
  );
  const [worklet, worker, joints] = await page.evaluate(
    async ({ left, right, lane, workletUrl, workerUrl, sampleRate }) => {
      const shared = (values: number[]) => {
        const side = new Float32Array(new SharedArrayBuffer(values.length * 4));
        side.set(values);
        return side;
      };
      const audio = { left: shared(left), right: shared(right), sampleRate };
      const frames = left.length;
      // What the page itself ships: the bundled worklet in an offline context, and the bundled worker.
      const context = new OfflineAudioContext(2, frames + 65536, sampleRate);
      await context.audioWorklet.addModule(workletUrl);
      const node = new AudioWorkletNode(context, 'copper-lane', {
        numberOfInputs: 0,
        numberOfOutputs: 1,
        outputChannelCount: [2],
        processorOptions: { audio, lane, taps: null, playing: true },
      });
      node.connect(context.destination);
      const live = await context.startRendering();

      const measuring = new Worker(workerUrl);
      measuring.postMessage({ type: 'load', audio, loudest: null, keepBytes: 0 });
      const output = { left: shared(left), right: shared(right) };
      measuring.postMessage({ type: 'run', id: 1, lane, output });
      type Reply = {
        type: string;
        measurement: {
          left: Float32Array;
          right: Float32Array;
          joints: { integratedLufs: number; truePeakDbtp: number }[];
        };
      };
      const result = await new Promise<Reply['measurement']>((resolve) => {
        measuring.onmessage = ({ data }: MessageEvent<Reply>) => data.type === 'result' && resolve(data.measurement);
      });
      const plain = (x: Float32Array) => Array.from(x);
      return [
        [plain(live.getChannelData(0)), plain(live.getChannelData(1))],
        [plain(result.left), plain(result.right)],
        result.joints.map(({ integratedLufs, truePeakDbtp }) => [integratedLufs, truePeakDbtp]),
      ];
    },
    {
      left: [...sides[0]],
      right: [...sides[1]],
      lane: LANE,
      workletUrl,
      workerUrl,
      sampleRate: RATE,
    },
  );

  const folder = mkdtempSync(path.join(os.tmpdir(), 'copper-bits-'));
  const [input, output, laneFile] = ['in.wav', 'out.wav', 'lane.json'].map((name) => path.join(folder, name));
  writeWave(input, signal, RATE);
  writeFileSync(laneFile, JSON.stringify(LANE));
  const args = ['--import', 'tsx', 'src/cli/render.ts', input, output, '--lane', laneFile, '--depth', '32f'];
  const { status, stderr } = spawnSync(process.execPath, args, { encoding: 'utf8' });
  expect(status, stderr).toBe(0);
  const raw = spawnSync('ffmpeg', ['-v', 'error', '-i', output, '-f', 'f32le', '-'], { maxBuffer: 1 << 28 }).stdout;
  rmSync(folder, { recursive: true });
  const interleaved = new Float32Array(raw.buffer, raw.byteOffset, raw.length / 4);
  const server = [0, 1].map((side) =>
    Float32Array.from({ length: interleaved.length / 2 }, (_, i) => interleaved[i * 2 + side]),
  );

  // The browser measures on a thread of its own; the same figures come from one.
  const audio = { left: sides[0], right: sides[1], sampleRate: RATE };
  const measured = await new LaneMeasurer(audio).run(LANE, { turn: () => Promise.resolve() });
  expect(joints).toEqual(measured.joints.map(({ integratedLufs, truePeakDbtp }) => [integratedLufs, truePeakDbtp]));
  expect(server[0]).toHaveLength(SECONDS * RATE);
  for (const side of [0, 1]) {
    expect(hash(Float32Array.from(worker[side]))).toBe(hash(server[side]));
    // What is heard trails by the lane's latency.
    const { latency } = new LaneProcessor(LANE, { sampleRate: RATE, maxFrames: 128, meterHops: 0 });
    expect(hash(Float32Array.from(worklet[side].slice(latency, latency + server[side].length)))).toBe(
      hash(server[side]),
    );
  }
});
