// What runs in a browser's worklet and worker, held against the server's bits.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { expect } from '@playwright/test';
import { LaneProcessor } from '@/core/lane/processor';
import { LANE_SCHEMA, parseLane } from '@/core/lane/schema';
import { LaneMeasurer } from '@/engine/measure/lane-measurer';
import { music } from '../support/music';
import { writeWave } from '../support/wave';

const RATE = 44100;
const SECONDS = 5;
/** A lane with everything that could come out differently. */
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

type Channels = [left: string, right: string];

/** What goes to a page and comes back: samples as base64 of their floats. */
interface Order {
  channels: Channels;
  lane: unknown;
  sampleRate: number;
}
interface Answer {
  worklet: Channels;
  worker: Channels;
  joints: number[][];
}

const encoded = (x: Float32Array) => Buffer.from(x.buffer, x.byteOffset, x.byteLength).toString('base64');
const decoded = (text: string) => new Float32Array(Uint8Array.from(Buffer.from(text, 'base64')).buffer);

/** To run in a page before its own scripts: notes which worklet and which worker it loads. */
export function noteScripts(): void {
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
}

/** To run in a page of an open track: runs a lane in the worklet and in the worker that the page itself ships. */
export async function runInPage({ channels, lane, sampleRate }: Order): Promise<Answer> {
  const { workletUrl, workerUrl } = window as unknown as { workletUrl: string; workerUrl: string };
  const shared = (bytes: number) => new Float32Array(new SharedArrayBuffer(bytes));
  const [left, right] = channels.map((text) => {
    const bytes = Uint8Array.from(atob(text), (char) => char.charCodeAt(0));
    const samples = shared(bytes.length);
    new Uint8Array(samples.buffer).set(bytes);
    return samples;
  });
  const text = (samples: Float32Array) => {
    const bytes = Uint8Array.from(new Uint8Array(samples.buffer, samples.byteOffset, samples.byteLength));
    let out = '';
    for (let at = 0; at < bytes.length; at += 8192) out += String.fromCharCode(...bytes.subarray(at, at + 8192));
    return btoa(out);
  };
  const audio = { left, right, sampleRate };
  const context = new OfflineAudioContext(2, left.length + 65536, sampleRate);
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
  const output = { left: shared(left.byteLength), right: shared(left.byteLength) };
  measuring.postMessage({ type: 'run', id: 1, lane, output });
  interface Reply {
    type: string;
    measurement: {
      left: Float32Array;
      right: Float32Array;
      joints: { integratedLufs: number; truePeakDbtp: number }[];
    };
  }
  const result = await new Promise<Reply['measurement']>((resolve) => {
    measuring.onmessage = ({ data }: MessageEvent<Reply>) => data.type === 'result' && resolve(data.measurement);
  });
  measuring.terminate();
  return {
    worklet: [text(live.getChannelData(0)), text(live.getChannelData(1))],
    worker: [text(result.left), text(result.right)],
    joints: result.joints.map(({ integratedLufs, truePeakDbtp }) => [integratedLufs, truePeakDbtp]),
  };
}

/** Has a page run the lane, and expects from it the bits and figures of the server. */
export async function expectSameBits(runs: (run: typeof runInPage, order: Order) => Promise<Answer>): Promise<void> {
  const signal = music(SECONDS, RATE, 0.4);
  const [left, right] = [signal.left, signal.right].map((channel) =>
    Float32Array.from(channel, (x) => Math.round(x * 8388608) / 8388608),
  );
  const answer = await runs(runInPage, { channels: [encoded(left), encoded(right)], lane: LANE, sampleRate: RATE });

  const folder = mkdtempSync(path.join(os.tmpdir(), 'copper-bits-'));
  const [input, output, laneFile] = ['in.wav', 'out.wav', 'lane.json'].map((name) => path.join(folder, name));
  writeWave(input, signal, RATE);
  writeFileSync(laneFile, JSON.stringify(LANE));
  const args = ['render', input, output, '--lane', laneFile, '--depth', '32f'];
  const { status, stderr } = spawnSync('scripts/command', args, { encoding: 'utf8' });
  expect(status, stderr).toBe(0);
  const raw = spawnSync('ffmpeg', ['-v', 'error', '-i', output, '-f', 'f32le', '-'], { maxBuffer: 1 << 28 }).stdout;
  rmSync(folder, { recursive: true });
  const interleaved = new Float32Array(raw.buffer, raw.byteOffset, raw.length / 4);
  const server = [0, 1].map((channel) =>
    Float32Array.from({ length: interleaved.length / 2 }, (_, i) => interleaved[i * 2 + channel]),
  );

  // The browser measures on a thread of its own; the same figures come from one.
  const measured = await new LaneMeasurer({ left, right, sampleRate: RATE }).run(LANE, {
    turn: () => Promise.resolve(),
  });
  expect(answer.joints).toEqual(
    measured.joints.map(({ integratedLufs, truePeakDbtp }) => [integratedLufs, truePeakDbtp]),
  );
  expect(server[0]).toHaveLength(SECONDS * RATE);
  // What is heard trails by the lane's latency.
  const { latency } = new LaneProcessor(LANE, { sampleRate: RATE, maxFrames: 128, meterHops: 0 });
  for (const channel of [0, 1]) {
    expect(hash(decoded(answer.worker[channel]))).toBe(hash(server[channel]));
    expect(hash(decoded(answer.worklet[channel]).slice(latency, latency + SECONDS * RATE))).toBe(hash(server[channel]));
  }
}
