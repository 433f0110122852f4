// Solving loudness and true peak over whole tracks: against a measurement of the whole lane, on lanes at random.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import fc from 'fast-check';
import { receiptSchema } from '@/core/deliver/receipt';
import { READY_MADE } from '@/core/deliver/ready-made';
import { handholdsOf, MEETING_LU, MOST_PASSES } from '@/core/deliver/meet';
import { LANE_SCHEMA, parseLane, type Lane } from '@/core/lane/schema';
import { LaneMeasurer } from '@/engine/measure/lane-measurer';
import { Meetings } from '@/engine/measure/meetings';
import { ebur128 } from '../support/ffmpeg';
import { music } from '../support/music';
import { writeWave } from '../support/wave';

const RATE = 44100;
const LOUDEST = { start: 3 * RATE, end: 6 * RATE };
const { left, right } = music(9, RATE, 0.25);
const audio = { left: Float32Array.from(left), right: Float32Array.from(right), sampleRate: RATE };
const meetings = new Meetings(audio, LOUDEST, new Map());
const measurer = new LaneMeasurer(audio, { loudest: LOUDEST });
const calm = { turn: () => Promise.resolve(), output: null };

const between = (min: number, max: number) => fc.double({ min, max, noNaN: true }).map((x) => Math.round(10 * x) / 10);
const stages = fc.record({
  trim: between(-6, 6),
  bell: between(-4, 4),
  threshold: between(-40, -10),
  clip: fc.option(between(0, 8)),
  drive: between(-4, 10),
  ceiling: between(-3, -0.1),
  recovery: between(20, 400),
});
const laneOf = ({
  trim,
  bell,
  threshold,
  clip,
  drive,
  ceiling,
  recovery,
}: typeof stages extends fc.Arbitrary<infer T> ? T : never) =>
  parseLane({
    schema: LANE_SCHEMA,
    stages: [
      { id: 'level', kind: 'trim', settings: { gainDb: trim } },
      { id: 'tone', kind: 'equalizer', settings: { bands: [{ shape: 'bell', frequencyHz: 800, gainDb: bell, q: 1 }] } },
      { id: 'glue', kind: 'compressor', settings: { thresholdDbfs: threshold, ratio: 2 } },
      ...(clip === null ? [] : [{ id: 'clip', kind: 'clipper', settings: { inputGainDb: clip, ceilingDbfs: -1 } }]),
      { id: 'end', kind: 'limiter', settings: { inputGainDb: drive, ceilingDbtp: ceiling, recoveryMs: recovery } },
    ],
  });

const destinations = READY_MADE.filter(({ loudness }) => loudness?.rule === 'target');

test('a solution is what a measurement of the whole lane gives, to the bit, and meets its destination or says what is in the way', async () => {
  let met = 0;
  await fc.assert(
    fc.asyncProperty(stages, fc.constantFrom(...destinations), fc.nat(3), async (settings, destination, which) => {
      const lane: Lane = laneOf(settings);
      const holds = handholdsOf(lane);
      const found = await meetings.meet(lane, destination, holds[which % holds.length]);
      const { master } = await measurer.run(found.lane, calm);
      expect(found.passes).toBeLessThanOrEqual(MOST_PASSES);
      expect(found.reading).toEqual({
        ...{ integratedLufs: master.integratedLufs, truePeakDbtp: master.truePeakDbtp },
        ...{ maxMomentaryLufs: master.maxMomentaryLufs, maxShortTermLufs: master.maxShortTermLufs },
      });
      const target = destination.loudness!.lufs;
      const within = Math.abs(master.integratedLufs - target) <= MEETING_LU;
      if (found.met) {
        met++;
        expect(within || destination.shortTerm !== null).toBe(true);
        expect(master.truePeakDbtp).toBeLessThanOrEqual(destination.truePeak.maxDbtp + 0.05);
      } else expect(found.obstacle).not.toBeNull();
      expect(parseLane(found.lane)).toEqual(found.lane);
    }),
    { numRuns: 16, seed: 15 },
  );
  expect(met).toBeGreaterThan(8);
});

test('the cleanest means is proposed, and a limiter that is driven less than it has to is not clean for ever', async () => {
  const lane = laneOf({ trim: 0, bell: 1, threshold: -12, clip: 1, drive: 2, ceiling: -1, recovery: 120 });
  const { master } = await measurer.run(lane, calm);
  const streaming = destinations.find(({ loudness }) => loudness!.lufs === -14)!;
  const proposals = await meetings.propose(lane, streaming, master);
  expect(proposals.map(({ hold }) => hold.means).sort()).toEqual(['clipper', 'limiter', 'makeup', 'trim']);
  const ordered = proposals.filter(({ met }) => met).map(({ cost }) => cost.distortionDb);
  expect([...ordered].sort((a, b) => a - b)).toEqual(ordered);
  const [best] = proposals;
  const found = await meetings.meet(lane, streaming, best.hold);
  expect(found.met).toBe(true);
  // Estimated from the passage alone.
  expect(Math.abs(found.value - best.value)).toBeLessThan(1.5);
  const limiter = handholdsOf(lane)[0];
  const effortless = (await meetings.effortless(lane, limiter, master))?.value;
  expect(effortless).toBeGreaterThan(-12);
  expect(effortless).toBeLessThan(14);
});

test('finished files of solved lanes meet their destinations, at other rates too, by their receipts and by ffmpeg', async () => {
  const folder = mkdtempSync(path.join(os.tmpdir(), 'copper-meet-'));
  const lane = laneOf({ trim: 0, bell: 1, threshold: -16, clip: 1, drive: 2, ceiling: -1, recovery: 120 });
  for (const name of ['Streaming', 'Broadcast']) {
    const destination = destinations.find((each) => each.name === name)!;
    const found = await meetings.meet(lane, destination, handholdsOf(lane)[0]);
    expect(found.met).toBe(true);
    writeWave(path.join(folder, 'mix.wav'), { left, right }, RATE, 24);
    writeFileSync(path.join(folder, 'lane.json'), JSON.stringify(found.lane));
    const tracks = [{ file: 'mix.wav', lane: 'lane.json', title: name }];
    writeFileSync(path.join(folder, 'manifest.json'), JSON.stringify({ destinations: [name], tracks }));
    const args = ['master', path.join(folder, 'manifest.json')];
    const made = spawnSync('scripts/command', args, { encoding: 'utf8', env: { ...process.env, DATABASE_URL: '' } });
    expect([made.stderr, made.status]).toEqual(['', 0]);
  }
  const masters = path.join(folder, 'masters');
  const receipts = readdirSync(masters).filter((file) => file.endsWith('.receipt.json'));
  expect(receipts).toHaveLength(2);
  for (const file of receipts) {
    const { measured, destination, levelDb } = receiptSchema.parse(
      JSON.parse(readFileSync(path.join(masters, file), 'utf8')),
    );
    const target = destination.loudness!.lufs;
    expect(levelDb).toBe(0);
    expect(Math.abs(measured.integratedLufs! - target)).toBeLessThanOrEqual(MEETING_LU);
    const reference = ebur128(path.join(masters, file.replace('.receipt.json', '')));
    expect(Math.abs(reference.integrated - target)).toBeLessThanOrEqual(0.1);
    expect(reference.truePeak).toBeLessThanOrEqual(destination.truePeak.maxDbtp + 0.1);
  }
  rmSync(folder, { recursive: true });
});
