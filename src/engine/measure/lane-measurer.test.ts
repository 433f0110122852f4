import { noise, sine } from '../../../tests/support/signals';
import { aligned } from '../../../tests/support/core';
import { parseLane, type Lane } from '../../core/lane/schema';
import { averageSpectrumSize } from '../../core/measure/average-spectrum';
import { LaneMeasurer, type MeasuringControl } from './lane-measurer';
import type { Audio, RenderedMeasurement, Span } from './measurement';

const RATE = 44100;
const music = Float32Array.from(sine(220, -14, 4, RATE), (x, i) => x * (0.5 + 0.5 * Math.sin(i / 9000)));
const hiss = Float32Array.from(noise(4 * RATE, 0.05));
const audio: Audio = {
  left: music.map((x, i) => x + hiss[i]),
  right: music.map((x, i) => x - hiss[i]),
  sampleRate: RATE,
};

const STAGES = [
  { id: 'a', kind: 'trim', on: true, settings: { gainDb: 6 } },
  { id: 'b', kind: 'equalizer', on: true, settings: { bands: [{ shape: 'bell', frequencyHz: 400, gainDb: 6, q: 1 }] } },
  { id: 'c', kind: 'limiter', on: true, settings: { inputGainDb: 9 } },
];
const lane = (change: (stages: typeof STAGES) => unknown[] = (stages) => stages): Lane =>
  parseLane({ schema: 1, stages: change(structuredClone(STAGES)) });
const calm: MeasuringControl = { turn: () => Promise.resolve() };

/** Everything of a result as plain values, without the parts that are pictures of the same. */
const plain = ({ joints, master, gainReduction, spectra, left }: RenderedMeasurement) => ({
  spectra: spectra.map((each) => each && [each.before[300], each.after[300]]),
  joints: joints.map(({ integratedLufs, truePeakDbtp }) => [integratedLufs, truePeakDbtp]),
  master: [master.integratedLufs, master.rangeLu, master.truePeakDbtp, master.maxShortTermLufs],
  reductions: gainReduction.map((trace) => trace && [...trace]),
  picture: [...master.picture],
  samples: [...left.subarray(RATE, RATE + 5000)],
});

test('the rendered master is what the lane gives, in place in time', async () => {
  const { left, right } = await new LaneMeasurer(audio).run(lane(), calm);
  const expected = aligned(
    { left: Float64Array.from(audio.left), right: Float64Array.from(audio.right) },
    STAGES,
    RATE,
  );
  expect([...left]).toEqual([...Float32Array.from(expected.left)]);
  expect([...right.subarray(0, 999)]).toEqual([...Float32Array.from(expected.right.subarray(0, 999))]);
});

test('other edges are measured again from the mix, as by a new measurer', async () => {
  const measurer = new LaneMeasurer(audio);
  const edged: Lane = parseLane({ ...lane(), edges: { startSeconds: 1, endSeconds: 2.5, fadeIn: { seconds: 0.5 } } });
  const whole = await measurer.run(lane(), calm);
  const second = await measurer.run(edged, calm);
  expect(plain(second)).toEqual(plain(await new LaneMeasurer(audio).run(edged, calm)));
  expect(second.joints[0].integratedLufs).not.toBe(whole.joints[0].integratedLufs);
  expect(second.left.subarray(0, RATE).every((x) => Math.abs(x) < 1e-6)).toBe(true);
  expect(second.left.subarray(3 * RATE).every((x) => Math.abs(x) < 1e-6)).toBe(true);
  // A later stage is measured on from what was kept, which has the edges already.
  const driven = { ...edged, stages: lane(([trim, eq, limiter]) => [trim, eq, { ...limiter, on: false }]).stages };
  expect(plain(await measurer.run(driven, calm))).toEqual(plain(await new LaneMeasurer(audio).run(driven, calm)));
  // And what is drawn of the mix is all of it.
  expect(second.mix.picture).toEqual(whole.mix.picture);
});

const WORKING_BANDS = {
  id: 'bands',
  kind: 'bandDynamics',
  on: true,
  settings: { bands: [{}, { compression: { thresholdDbfs: -40, ratio: 4 } }, {}, {}, {}] },
};
const NARROW = { id: 'narrow', kind: 'stereo', on: true, settings: { widthsPercent: [100, 100, 0, 100, 100] } };

test('bands have reductions of their own, and stereo stages an image before and after them', async () => {
  const { gainReduction, bandReduction, images } = await new LaneMeasurer(audio).run(
    lane(([trim]) => [trim, WORKING_BANDS, NARROW]),
    calm,
  );
  const most = (trace: Float32Array) => trace.reduce((a, b) => Math.max(a, b), 0);
  const bands = bandReduction[1]!;
  expect(bands.map((trace) => most(trace) > 1)).toEqual([false, true, false]);
  expect(most(gainReduction[1]!)).toBeCloseTo(most(bands[1]), 5);
  expect(bandReduction[0]).toBeNull();
  const { before, after } = images[2]!;
  const average = (values: Float32Array) => values.reduce((sum, x) => sum + x, 0) / values.length;
  // The hiss is inverted between the channels; above 2.5 kHz there is nothing else, until it is made mono.
  expect(average(before.bands[2])).toBeLessThan(-0.9);
  expect(before.correlation).toHaveLength(40);
  expect(before.foldDownLu).toBeGreaterThan(after.foldDownLu);
  expect(images[1]).toBeNull();
});

test('new crossovers count as a change of the stages that work by bands, and of no other', async () => {
  const measurer = new LaneMeasurer(audio);
  const stages = lane(([trim, , limiter]) => [trim, WORKING_BANDS, limiter]);
  const moved: Lane = { ...stages, crossovers: { frequenciesHz: [90, 300], phase: 'minimum' } };
  const first = await measurer.run(stages, calm);
  const second = await measurer.run(moved, calm);
  expect(plain(second)).toEqual(plain(await new LaneMeasurer(audio).run(moved, calm)));
  expect(second.bandReduction[1]![1]).not.toEqual(first.bandReduction[1]![1]);
});

const linear = (stage: object) => ({ ...stage, id: 'linear', settings: { phase: 'linear' } });

test('after any change the result is that of a measurement from the beginning', async () => {
  const measurer = new LaneMeasurer(audio);
  await measurer.run(lane(), calm);
  const changes: ((stages: typeof STAGES) => unknown[])[] = [
    (stages) => ((stages[2].settings = { inputGainDb: 3 }), stages),
    (stages) => ((stages[2].settings = { inputGainDb: 12 }), stages),
    (stages) => ((stages[1].on = false), stages),
    (stages) => ((stages[0].settings = { gainDb: -3 }), stages),
    ([a, b, c]) => [b, a, c],
    ([a, b, c]) => [a, b, linear(b), c],
    ([a, b, c]) => [a, linear(b), b, c],
    ([a, b, c]) => [a, b, WORKING_BANDS, NARROW, c],
    ([a, b, c]) => [a, b, WORKING_BANDS, NARROW, { ...c, settings: { inputGainDb: 4 } }],
    ([a, b, c]) => [a, linear(b), b, { ...c, settings: { inputGainDb: 4 } }],
    (stages) => stages.slice(0, 2),
    () => [],
    (stages) => stages,
  ];
  for (const change of changes) {
    const kept = plain(await measurer.run(lane(change), calm));
    expect(kept).toEqual(plain(await new LaneMeasurer(audio).run(lane(change), calm)));
  }
});

test('a change of the last stage starts from the signal that enters it', async () => {
  // Nothing of the mix is read once that signal is kept.
  const reads = { left: 0 };
  const watched = new Proxy(audio.left, {
    get(target, name) {
      if (name === 'subarray') reads.left++;
      const value: unknown = Reflect.get(target, name, target);
      return typeof value === 'function' ? (value as () => unknown).bind(target) : value;
    },
  });
  const measurer = new LaneMeasurer({ ...audio, left: watched });
  const drive = (inputGainDb: number) => lane((stages) => ((stages[2].settings = { inputGainDb }), stages));
  for (const gain of [1, 2]) await measurer.run(drive(gain), calm);
  reads.left = 0;
  await measurer.run(drive(3), calm);
  expect(reads.left).toBe(0);
  await measurer.run(
    lane((stages) => ((stages[0].settings = { gainDb: 1 }), stages)),
    calm,
  );
  expect(reads.left).toBeGreaterThan(0);
});

test('a measurement that is overtaken ends at once and leaves the next one right', async () => {
  const measurer = new LaneMeasurer(audio);
  await measurer.run(lane(), calm);
  const changed = lane((stages) => ((stages[0].settings = { gainDb: 1 }), stages));
  const overtaken = measurer.run(changed, {
    turn: (share) => (share > 0.3 ? Promise.reject(new Error('overtaken')) : Promise.resolve()),
  });
  await expect(overtaken).rejects.toThrow('overtaken');
  expect(plain(await measurer.run(lane(), calm))).toEqual(plain(await new LaneMeasurer(audio).run(lane(), calm)));
});

test('measured without its samples a lane has the same figures', async () => {
  const measured = await new LaneMeasurer(audio).run(lane(), { ...calm, output: null });
  expect([measured.left.length, measured.right.length]).toEqual([0, 0]);
  const { samples: _, ...figures } = plain(measured);
  expect(plain(await new LaneMeasurer(audio).run(lane(), calm))).toMatchObject(figures);
});

test('an empty lane gives the mix', async () => {
  const { joints, mix, master, left } = await new LaneMeasurer(audio).run(
    lane(() => []),
    calm,
  );
  expect(joints).toHaveLength(1);
  expect(master.integratedLufs).toBe(mix.integratedLufs);
  expect([...left]).toEqual([...audio.left]);
});

test('gain reduction has one value for each block, and overs their times', async () => {
  const { gainReduction, master } = await new LaneMeasurer(audio).run(
    lane(() => [{ id: 'x', kind: 'trim', settings: { gainDb: 18 } }]),
    calm,
  );
  expect(gainReduction).toEqual([null]);
  expect(master.overs.length).toBeGreaterThan(0);
  expect(Math.max(...master.overs)).toBeLessThan(4);
});

test('an equalizer has the average spectra before and after it, as levels of a sine', async () => {
  const bin = 1000;
  const frequencyHz = (bin * RATE) / averageSpectrumSize(RATE);
  const tone = Float32Array.from(sine(frequencyHz, -18, 8, RATE));
  const bell = { shape: 'bell', frequencyHz: Math.round(frequencyHz), gainDb: 6, q: 1 };
  const stages = [
    { id: 't', kind: 'trim', settings: {} },
    { id: 'e', kind: 'equalizer', settings: { bands: [bell] } },
  ];
  const { spectra } = await new LaneMeasurer({ left: tone, right: tone, sampleRate: RATE }).run(
    parseLane({ schema: 1, stages }),
    calm,
  );
  expect(spectra[0]).toBeNull();
  expect(spectra[1]!.before[bin]).toBeCloseTo(-18, 1);
  expect(spectra[1]!.after[bin]).toBeCloseTo(-12, 1);
  expect(spectra[1]!.before[bin + 200]).toBeLessThan(-90);
});

test('a nonlinear stage is watched: what it touched, what it added, and where it worked most, in time', async () => {
  const left = Float32Array.from(sine(441, -20, 4, RATE));
  // The one loud place.
  for (let i = 2 * RATE; i < 2 * RATE + 8820; i++) left[i] *= 8;
  const watched = (loudest?: Span) =>
    new LaneMeasurer({ left, right: left, sampleRate: RATE }, { loudest }).run(
      lane(([trim]) => [
        { ...trim, settings: { gainDb: 0 } },
        { id: 'clip', kind: 'clipper', on: true, settings: { ceilingDbfs: -8 } },
      ]),
      calm,
    );
  const result = await watched({ start: 2 * RATE, end: 2 * RATE + 8820 });
  const distortion = result.distortions[1]!;
  expect(result.distortions[0]).toBeNull();
  expect(result.latencies).toEqual([0, 0, result.latencies[2]]);
  expect(result.latencies[2]).toBeGreaterThan(60);
  const { before, after, seconds } = distortion.excerpt;
  expect(seconds).toBeGreaterThan(1.9);
  expect(seconds).toBeLessThan(2.2);
  // Below the ceiling both are the same to the last bit of f32; above it only one is.
  const quiet = before.findIndex((x) => Math.abs(x) > 0.01 && Math.abs(x) < 0.2);
  expect(after[quiet]).toBeCloseTo(before[quiet], 3);
  expect(before.reduce((most, x) => Math.max(most, x), 0)).toBeCloseTo(0.8, 2);
  expect(after.reduce((most, x) => Math.max(most, x), 0)).toBeLessThan(0.45);
  const share = distortion.touched!.reduce((sum, x) => sum + x, 0) / distortion.touched!.length;
  expect(share).toBeGreaterThan(0.02);
  expect(share).toBeLessThan(0.05);
  // A sine of twice the ceiling: what is left without its fundamental, by Fourier's coefficients of a clipped sine.
  const theta = Math.asin(10 ** (-8 / 20) / 0.8);
  const fundamental = (2 / Math.PI) * (theta + Math.sin(theta) * Math.cos(theta));
  const power =
    (2 / Math.PI) * (theta - Math.sin(theta) * Math.cos(theta) + (Math.PI - 2 * theta) * Math.sin(theta) ** 2);
  const expected = 10 * Math.log10((power - fundamental ** 2) / fundamental ** 2);
  // The windows at the two edges hold a jump of 18 dB.
  expect(Math.abs(distortion.added!.totalDb - expected)).toBeLessThan(2);
  expect((await watched({ start: 0, end: RATE })).distortions[1]!.added!.totalDb).toBe(-Infinity);
  expect((await watched()).distortions[1]!.added).toBeNull();
});

test('what crossovers and filters turn without bending it is no distortion', async () => {
  const left = Float64Array.from(noise(2 * RATE, 0.002));
  const audio = { left: Float32Array.from(left), right: Float32Array.from(left), sampleRate: RATE };
  const result = await new LaneMeasurer(audio, { loudest: { start: RATE / 2, end: 1.5 * RATE } }).run(
    lane(() => [
      { id: 'bands', kind: 'saturation', settings: { driveDb: 0, split: 'bands' } },
      { id: 'least', kind: 'clipper', settings: { oversampling: { phase: 'least' } } },
      { id: 'pre', kind: 'limiter', settings: { preLimited: true } },
    ]),
    calm,
  );
  for (const distortion of result.distortions) expect(distortion!.added!.totalDb).toBeLessThan(-55);
});
