import { above, db, noise, sine } from '../../../tests/support/signals';
import { aligned } from '../../../tests/support/core';
import { EdgeGain } from '../../core/sequence/edges';
import { parseLane, type Lane } from '../../core/lane/schema';
import { regionBands } from '../../core/stages/equalizer/region';
import { compressorSettings } from '../../core/stages/compressor/settings';
import { sideChainBands } from '../../core/stages/compressor/side-chain';
import { equalizerBand } from '../../core/stages/equalizer/settings';
import { sourceLevel } from '../measure/source-level';
import { matchGains } from '../sources/level-match';
import { ListeningEngine } from './listening-engine';
import { makeTaps, type LiveOptions, type Monitor } from './protocol';

const RATE = 44100;
const tone = Float32Array.from(sine(441, -12, 4, RATE));
const audio = { left: tone, right: tone.map((x) => x / 2), sampleRate: RATE };
const lane = (...stages: object[]): Lane =>
  parseLane({ schema: 1, stages: stages.map((stage, i) => ({ id: `${i}`, ...stage })) });
const TRIM = { kind: 'trim', settings: { gainDb: -6 } };
/** An equalizer with bells at frequencies in Hz, with gains in dB. */
const bands = (...pairs: number[]) => ({
  kind: 'equalizer',
  settings: {
    bands: pairs.flatMap((frequencyHz, i) =>
      i % 2 === 0 ? [{ shape: 'bell', frequencyHz, gainDb: pairs[i + 1] }] : [],
    ),
  },
});
const LIMITER = { kind: 'limiter', settings: { inputGainDb: 15 } };

/** Renders quanta and tells the live lane things on the way. */
function play(live: ListeningEngine, quanta: number, at: Record<number, () => void> = {}) {
  const left = new Float32Array(quanta * 128);
  const right = new Float32Array(quanta * 128);
  for (let q = 0; q < quanta; q++) {
    at[q]?.();
    live.render(left.subarray(q * 128, q * 128 + 128), right.subarray(q * 128, q * 128 + 128));
  }
  return { left, right };
}
const open = (of: Lane, options: Partial<LiveOptions> = {}) =>
  new ListeningEngine({ audio, lane: of, taps: null, playing: true, ...options });
const peak = (x: Float32Array) => x.reduce((most, v) => Math.max(most, Math.abs(v)), 0);
/** Level in dBFS of what no smooth change of a tone of 441 Hz has. */
const click = (x: Float32Array) => db(peak(Float32Array.from(above(Float64Array.from(x), 3000, RATE).subarray(600))));

test('plays the lane bit for bit, later by its latency', () => {
  const stages = [TRIM, LIMITER];
  const { left } = play(open(lane(...stages)), 200);
  const expected = aligned(
    { left: Float64Array.from(audio.left), right: Float64Array.from(audio.right) },
    stages,
    RATE,
  );
  const latency = left.findIndex((x) => x !== 0) - expected.left.findIndex((x) => x !== 0);
  expect(latency).toBeGreaterThan(200);
  expect([...left.subarray(latency, 200 * 128)]).toEqual([
    ...Float32Array.from(expected.left.subarray(0, 200 * 128 - latency)),
  ]);
});

const EDGES = {
  startSeconds: 3000 / RATE,
  endSeconds: 20_000 / RATE,
  fadeIn: { seconds: 2000 / RATE, shape: 'sCurve' },
  fadeOut: { seconds: 5000 / RATE, shape: 'linear' },
};
const edged = (of: Lane) => parseLane({ ...of, edges: EDGES });

test('edges are heard to the sample: silence outside, the fades, and nothing else', () => {
  const { left } = play(open(edged(lane(TRIM))), 200);
  const whole = play(open(lane(TRIM)), 200).left;
  const gain = new EdgeGain(edged(lane()).edges!, RATE, tone.length);
  // A trim is applied before or after the fade: they differ by the rounding of the last bit.
  left.forEach((x, i) => {
    if (Math.abs(x - whole[i] * gain.at(i)) > 1e-7) throw new Error(`Frame ${i} is ${x}.`);
  });
  expect(peak(left.subarray(0, 3000))).toBe(0);
  expect(peak(left.subarray(20_000))).toBe(0);
  expect(peak(left)).toBeGreaterThan(0.1);
});

test('edges are heard at their place after a jump too', () => {
  const live = open(edged(lane(LIMITER)));
  live.receive({ type: 'seek', frame: RATE });
  expect(peak(play(live, 100).left)).toBe(0);
  live.receive({ type: 'seek', frame: 10_000 });
  expect(peak(play(live, 40).left)).toBeGreaterThan(0.1);
});

test('mix and master are heard at the same place, and switching makes no click', () => {
  const live = open(lane(LIMITER));
  const { left } = play(live, 400, {
    100: () => live.receive({ type: 'gains', gainsDb: { mix: 3, lane: 0 } }),
    200: () => live.receive({ type: 'hear', source: 'mix', less: null }),
  });
  const mix = left.subarray(300 * 128);
  expect(db(peak(mix))).toBeCloseTo(-9, 2);
  expect(click(left.subarray(50 * 128))).toBeLessThan(-85);
  // The untouched mix is delayed as much as the master: a whole lane later than the track.
  const shift = [...Array(600).keys()].find(
    (d) =>
      Math.abs(mix[0] / 10 ** (3 / 20) - tone[300 * 128 - d]) < 1e-6 &&
      Math.abs(mix[9] / 10 ** (3 / 20) - tone[300 * 128 + 9 - d]) < 1e-6,
  );
  expect(shift).toBeDefined();
});

test.each([
  ['another stage', lane(TRIM, LIMITER), lane(LIMITER)],
  ['a switched stage', lane(TRIM), lane({ ...TRIM, on: false })],
  ['an alternative with other bands', lane(bands(900, 5)), lane(bands(300, -8, 2400, 4))],
  ['a fade at that place', lane(TRIM), parseLane({ ...lane(TRIM), edges: { fadeIn: { seconds: 0.8 } } })],
  ['another latency', lane(LIMITER), lane({ ...LIMITER, settings: { inputGainDb: 15, lookAheadMs: 1 } })],
])('%s is taken over without a click', (_, before, after) => {
  const live = open(before);
  const { left } = play(live, 400, { 150: () => live.receive({ type: 'lane', lane: after }) });
  expect(click(left.subarray(50 * 128))).toBeLessThan(-60);
  const fresh = play(open(after), 400).left;
  expect(db(peak(left.subarray(350 * 128)) / peak(fresh.subarray(350 * 128)))).toBeCloseTo(0, 2);
});

test('pause and play, seek and loop', () => {
  const live = open(lane(TRIM));
  play(live, 50);
  live.receive({ type: 'pause' });
  const { left } = play(live, 30);
  expect(peak(left.subarray(20 * 128))).toBe(0);
  expect(live.readings().playing).toBe(false);
  live.receive({ type: 'seek', frame: 2 * RATE });
  play(live, 30);
  expect(live.readings().frame).toBe(2 * RATE);
  live.receive({ type: 'loop', loop: { start: RATE, end: RATE + 4000 } });
  live.receive({ type: 'seek', frame: RATE });
  live.receive({ type: 'play' });
  for (let i = 0; i < 200; i++) {
    play(live, 1);
    const { frame } = live.readings();
    if (i > 20 && (frame < RATE - 128 || frame > RATE + 4000 + 128)) throw new Error(`Left the loop: ${frame}`);
  }
});

test('a seek that is followed at once by playback arrives, and plays on from there', () => {
  const live = new ListeningEngine({ audio, lane: lane(TRIM), taps: null });
  live.receive({ type: 'seek', frame: 2 * RATE });
  live.receive({ type: 'play' });
  play(live, 100);
  expect(live.readings().frame).toBeGreaterThan(2 * RATE + 90 * 128);
  expect(live.readings().frame).toBeLessThan(2 * RATE + 101 * 128);
});

test('what is listened to: mono, side, left, right, swapped, one side inverted', () => {
  const heard = (monitor: Monitor) => {
    const live = open(lane());
    live.receive({ type: 'monitor', monitor });
    const { left, right } = play(live, 200);
    return [peak(left.subarray(100 * 128)), peak(right.subarray(100 * 128))].map((x) => x / 10 ** (-12 / 20));
  };
  const expectNear = (values: number[], each: number[]) => each.forEach((x, i) => expect(values[i]).toBeCloseTo(x, 3));
  expectNear(heard('mono'), [0.75, 0.75]);
  expectNear(heard('side'), [0.25, 0.25]);
  expectNear(heard('left'), [1, 1]);
  expectNear(heard('right'), [0.5, 0.5]);
  expectNear(heard('swapped'), [0.5, 1]);
  const live = open(lane());
  live.receive({ type: 'monitor', monitor: 'inverted' });
  const { left, right } = play(live, 200);
  expectNear([right[199 * 128 + 7] / left[199 * 128 + 7]], [-0.5]);
});

test('one listening band alone passes what lies in it and little else', () => {
  const heard = (hz: number, index: number | null) => {
    const sound = Float32Array.from(sine(hz, -12, 4, RATE));
    const live = open(lane(), { audio: { left: sound, right: sound, sampleRate: RATE } });
    live.receive({ type: 'band', index });
    return db(peak(play(live, 500).left.subarray(300 * 128))) + 12;
  };
  [40, 155, 670, 3000, 11000].forEach((hz, band) => {
    expect(heard(hz, band)).toBeGreaterThan(-2);
    for (const other of [0, 1, 2, 3, 4]) if (Math.abs(other - band) > 1) expect(heard(hz, other)).toBeLessThan(-24);
  });
  expect(heard(1000, null)).toBeCloseTo(0, 1);
});

test('readings follow what is listened to, and stop at the end of the programme', () => {
  const live = open(lane(TRIM));
  play(live, 400);
  const master = live.readings();
  expect(master.heard.samplePeaksDbfs[0]).toBeCloseTo(-18, 1);
  expect(master.joints).toHaveLength(2);
  live.receive({ type: 'hear', source: 'mix', less: null });
  play(live, 100);
  expect(live.readings().heard.samplePeaksDbfs[0]).toBeCloseTo(-12, 1);
  play(live, 1200);
  expect(live.readings().playing).toBe(false);
});

test('now is the same moment of the track at every joint, whatever the latency of the stages between', () => {
  const loud = noise(6 * RATE, 1, 5);
  // Steps of 20 dB every 150 ms: a joint read at another moment shows them at another time.
  const stepped = Float32Array.from(loud, (x, i) => x * (Math.floor(i / (0.15 * RATE)) % 2 === 0 ? 0.5 : 0.05));
  const latent = [
    { kind: 'room', settings: { wetDb: -60 } },
    { kind: 'equalizer', settings: { phase: 'linear', bands: [{ shape: 'bell', frequencyHz: 100, gainDb: 0.01 }] } },
  ];
  const live = open(lane(...latent, TRIM), { audio: { left: stepped, right: stepped, sampleRate: RATE } });
  live.receive({ type: 'hear', source: 'mix', less: null });
  live.receive({ type: 'seek', frame: RATE });
  let steps = 0;
  let before = 0;
  for (let i = 0; i < 120; i++) {
    play(live, 11);
    const { joints, heard } = live.readings();
    if (i < 40) continue;
    for (const [joint, gainDb] of [0, 0, 0, -6].entries()) {
      expect(joints[joint].momentaryLufs).toBeCloseTo(joints[0].momentaryLufs + gainDb, 1);
      expect(Math.abs(joints[joint].samplePeakDbfs - joints[0].samplePeakDbfs - gainDb)).toBeLessThan(0.3);
    }
    expect(heard.momentaryLufs).toBe(joints[0].momentaryLufs);
    if (Math.abs(joints[0].samplePeakDbfs - before) > 10) steps++;
    before = joints[0].samplePeakDbfs;
  }
  expect(steps).toBeGreaterThan(10);
});

test('a lane that gets another stage before anything was played is read as it is then', () => {
  const live = open(lane(), { playing: false });
  live.receive({ type: 'lane', lane: lane(TRIM, LIMITER) });
  expect(live.readings().joints).toHaveLength(3);
});

test('taps hold the mid signal before and after the open stage', () => {
  const taps = makeTaps();
  const live = open(lane(TRIM), {
    taps,
    audio: { ...audio, left: Float32Array.from(noise(RATE, 0.3)), right: new Float32Array(RATE) },
  });
  live.receive({ type: 'tap', stage: 0 });
  play(live, 20);
  expect(taps.written[0]).toBe(20 * 128);
  for (const i of [300, 1000, 2000]) expect(taps.after[i] / taps.before[i]).toBeCloseTo(10 ** (-6 / 20), 5);
});

const BELL = { kind: 'equalizer', settings: { bands: [{ shape: 'bell', frequencyHz: 441, gainDb: 6, q: 1 }] } };

test('the change alone is the master less the mix', () => {
  const live = open(lane(BELL));
  const { left } = play(live, 300, { 100: () => live.receive({ type: 'hear', source: 'lane', less: 'mix' }) });
  expect(db(peak(left.subarray(200 * 128)))).toBeCloseTo(-12, 1);
  expect(click(left.subarray(50 * 128))).toBeLessThan(-85);
});

const scaled = (gain: number) => ({ left: tone.map((x) => x * gain), right: tone.map((x) => (x * gain) / 2) });

test('any number of rendered buffers play at the place of the lane, and any two can be subtracted, without a click', () => {
  const live = open(lane(TRIM, LIMITER));
  const hear = (source: string, less: string | null = null) => live.receive({ type: 'hear', source, less });
  const { left } = play(live, 900, {
    0: () =>
      [0.5, 0.25, 0.125].forEach((gain, i) => live.receive({ type: 'source', id: `r${i}`, buffer: scaled(gain) })),
    100: () => hear('r0'),
    200: () => hear('r2'),
    300: () => hear('mix', 'r0'),
    400: () => (live.receive({ type: 'gains', gainsDb: { r1: 6.0206 } }), hear('r0', 'r1')),
    500: () => hear('r0'),
    // A source that is rendered again while it is heard, and one that goes.
    550: () => live.receive({ type: 'source', id: 'r0', buffer: scaled(1) }),
    650: () => live.receive({ type: 'source', id: 'r0', buffer: null }),
  });
  const level = (quantum: number) => db(peak(left.subarray(quantum * 128, (quantum + 30) * 128)));
  expect(level(150)).toBeCloseTo(-18.02, 1);
  expect(level(250)).toBeCloseTo(-30.06, 1);
  expect(level(350)).toBeCloseTo(-18.02, 1);
  expect(level(450)).toBeLessThan(-90);
  expect(level(600)).toBeCloseTo(-12, 1);
  expect(click(left.subarray(50 * 128))).toBeLessThan(-80);
  expect(live.readings().heard.samplePeaksDbfs[0]).toBeLessThan(-1);
});

test('a buffer is heard at the place of a lane of long latency, also after a jump and in a loop', () => {
  const live = open(lane({ kind: 'equalizer', settings: { phase: 'linear' } }));
  const { left } = play(live, 700, {
    0: () => live.receive({ type: 'source', id: 'copy', buffer: scaled(1) }),
    1: () => live.receive({ type: 'hear', source: 'lane', less: 'copy' }),
    200: () => live.receive({ type: 'seek', frame: 30_001 }),
    350: () => live.receive({ type: 'loop', loop: { start: 50_000, end: 60_000 } }),
    351: () => live.receive({ type: 'seek', frame: 50_000 }),
  });
  for (const quantum of [100, 300]) {
    expect(db(peak(left.subarray(quantum * 128, (quantum + 40) * 128)))).toBeLessThan(-120);
  }
  // Round the seam the lane still hears what was before it.
  expect(db(peak(left.subarray(430 * 128)))).toBeLessThan(-100);
});

test('what is heard of a buffer is metered', () => {
  const live = open(lane(LIMITER));
  live.receive({ type: 'source', id: 'quiet', buffer: scaled(0.1) });
  live.receive({ type: 'hear', source: 'quiet', less: null });
  play(live, 1200);
  const { heard } = live.readings();
  expect(heard.samplePeaksDbfs[0]).toBeCloseTo(-32, 1);
  expect(heard.samplePeaksDbfs[1]).toBeCloseTo(-38, 1);
  // A tone of 441 Hz at −32 and −38 dBFS.
  expect(heard.integratedLufs).toBeLessThan(-30);
  expect(heard.integratedLufs).toBeGreaterThan(-36);
});

test('the amount of a wandering saturation is that of the place in the track, however one came there', () => {
  const wander = {
    kind: 'saturation',
    settings: { driveDb: 24, movement: 'wander', rateHz: 90, depthPercent: 100, makeupMatched: false },
  };
  const straight = play(open(lane(wander)), 500).left;
  const live = open(lane(wander));
  live.receive({ type: 'seek', frame: 20_000 });
  const { left } = play(live, 300);
  const { latency } = { latency: straight.findIndex((x) => Math.abs(x) > 1e-6) };
  // The seek fades out for some quanta; then what is heard starts at most a quantum late.
  const frame = 35_000;
  const offsets = [...Array(1500).keys()];
  const differs = (offset: number) =>
    [...Array(400).keys()].reduce(
      (most, i) => Math.max(most, Math.abs(left[frame - 20_000 + offset + i] - straight[frame + latency + i])),
      0,
    );
  expect(Math.min(...offsets.map(differs))).toBeLessThan(1e-3);
});

test('only a region of what is heard passes', () => {
  const live = open(lane());
  const bandsOf = (frequencyHz: number) => regionBands(equalizerBand.parse({ shape: 'bell', frequencyHz, q: 4 }));
  const { left } = play(live, 600, {
    100: () => live.receive({ type: 'region', bands: bandsOf(441) }),
    250: () => live.receive({ type: 'region', bands: bandsOf(8000) }),
    450: () => live.receive({ type: 'region', bands: [] }),
  });
  const level = (quantum: number) => db(peak(left.subarray(quantum * 128, (quantum + 40) * 128)));
  expect(level(200)).toBeCloseTo(-12, 1);
  expect(level(400)).toBeLessThan(-80);
  expect(level(550)).toBeCloseTo(-12, 5);
  expect(click(left.subarray(50 * 128))).toBeLessThan(-85);
});

const COMPRESSOR = { kind: 'compressor', settings: { thresholdDbfs: -30, ratio: 4, kneeDb: 0, attackMs: 5 } };
const BANDS = {
  kind: 'bandDynamics',
  settings: { bands: [{}, { compression: { thresholdDbfs: -40, ratio: 4, attackMs: 5 } }, {}, {}, {}] },
};

test('readings tell the gain reduction of each stage and of the bands of the open one', () => {
  const live = open(lane(COMPRESSOR, BANDS));
  live.receive({ type: 'tap', stage: 1 });
  play(live, 600);
  live.readings();
  play(live, 100);
  const { gainReduction, bandReductions } = live.readings();
  // 18 dB above the threshold at 4:1; then 14.5 dB above the band's.
  expect(gainReduction[0]).toBeCloseTo(18 * 0.75, 0);
  expect(bandReductions).toHaveLength(3);
  expect(bandReductions[1]).toBeCloseTo(gainReduction[1], 6);
  expect(bandReductions[0] + bandReductions[2]).toBe(0);
  expect(bandReductions[1]).toBeCloseTo(14.5 * 0.75, 0);
});

test('the image after an open stereo stage, overall and by bands; of no other stage', () => {
  const live = open(lane(TRIM, { kind: 'stereo', settings: { invertRight: true } }));
  play(live, 100);
  expect(live.readings().correlations).toEqual([]);
  const tapped = open(lane(TRIM, { kind: 'stereo', settings: { invertRight: true } }), { taps: makeTaps() });
  tapped.receive({ type: 'tap', stage: 1 });
  play(tapped, 400);
  const { correlations } = tapped.readings();
  expect(correlations).toHaveLength(4);
  expect(correlations[0]).toBeCloseTo(-1, 6);
  expect(correlations[2]).toBeCloseTo(-1, 6);
});

test('crossovers move without a click and without another lane', () => {
  const before = lane(BANDS);
  const after: Lane = { ...before, crossovers: { frequenciesHz: [300, 1500], phase: 'minimum' } };
  const live = open(before);
  const { left } = play(live, 500, { 250: () => live.receive({ type: 'lane', lane: after }) });
  expect(click(left.subarray(50 * 128))).toBeLessThan(-80);
});

test('a room plays an uploaded impulse response', () => {
  const response = { left: Float32Array.from([0, 0, 1]), right: Float32Array.from([0, 0, 1]) };
  const settings = { impulse: 'file', file: 'late', wetDb: 0, preDelayMs: 0, highPassHz: 20, lowPassHz: 20000 };
  const of = lane({ kind: 'room', settings });
  expect(() => open(of)).toThrow(/“late” is missing/);
  const { left } = play(open(of, { impulses: { late: response } }), 300);
  expect(db(peak(left.subarray(200 * 128)))).toBeCloseTo(-12 + 6.02, 0);
  const live = open(lane());
  live.receive({ type: 'impulse', name: 'late', impulse: response });
  live.receive({ type: 'lane', lane: of });
  expect(db(peak(play(live, 300).left.subarray(200 * 128)))).toBeCloseTo(-12 + 6.02, 0);
});

test('what a stage takes away is heard alone, with the gain it is given, in time', () => {
  const clipper = { kind: 'clipper', settings: { inputGainDb: 3, ceilingDbfs: -12 } };
  const live = open(lane(clipper), { taps: makeTaps() });
  live.receive({ type: 'tap', stage: 0 });
  const { left, right } = play(live, 500, {
    150: () => live.receive({ type: 'removed', gainDb: 3 }),
    350: () => live.receive({ type: 'removed', gainDb: null }),
  });
  // The left channel is 3 dB above the ceiling, the right one 3 dB below it.
  const [cut, whole] = [left.subarray(200 * 128, 300 * 128), left.subarray(420 * 128, 500 * 128)];
  expect(db(peak(right.subarray(200 * 128, 300 * 128)))).toBeLessThan(-100);
  expect(peak(cut)).toBeCloseTo(10 ** (-9 / 20) - 10 ** (-12 / 20), 2);
  expect(db(peak(whole))).toBeCloseTo(-12, 1);
  expect(click(right.subarray(50 * 128))).toBeLessThan(-80);
});

test('what enters a stage is heard through its side-chain, whatever comes after, and then everything again', () => {
  const compressor = { kind: 'compressor', settings: { thresholdDbfs: -40, ratio: 8, sideChainHighPassHz: 20 } };
  const trim = { kind: 'trim', settings: { gainDb: -24 } };
  const of = lane(compressor, trim);
  const live = open(of, { taps: makeTaps() });
  live.receive({ type: 'tap', stage: 0 });
  const bands = sideChainBands(compressorSettings.parse(compressor.settings));
  const { left } = play(live, 600, {
    150: () => live.receive({ type: 'region', bands, ofInput: true }),
    350: () => live.receive({ type: 'region', bands: [], ofInput: false }),
  });
  const level = (quantum: number) => db(peak(left.subarray(quantum * 128, (quantum + 40) * 128)));
  expect(level(100)).toBeLessThan(-50);
  expect(level(250)).toBeCloseTo(-12, 1);
  expect(level(500)).toBeLessThan(-50);
  expect(click(left.subarray(50 * 128))).toBeLessThan(-80);
});

test('a lane is heard with its oversampling for listening, and rendered for the delivery when asked', () => {
  const saturated = {
    kind: 'saturation',
    settings: { driveDb: 20, oversampling: { listening: 1, delivery: 16 } },
  };
  const render = (use: 'listening' | 'delivery') => play(open(lane(saturated), { use }), 200).left;
  const first = (x: Float32Array) => x.findIndex((value) => Math.abs(value) > 1e-3);
  // The filters of the delivery are late; listening without any has nothing to wait for.
  expect(first(render('delivery')) - first(render('listening'))).toBeGreaterThan(50);
});

describe('candidates', () => {
  const seconds = 4;
  /** Noise-like music of its own for each source, at a level. */
  const source = (seed: number, amplitude: number) => {
    const left = Float32Array.from(noise(seconds * RATE, amplitude, seed));
    return { left, right: left.map((x) => -x / 2) };
  };
  const LEVELS = [0.5, 0.1, 0.25, 0.03, 0.4, 0.07, 0.2, 0.6, 0.15];
  const buffers = LEVELS.map((level, i) => source(i + 1, level));

  test('nine of them play equally loud within 0.1 LU and at the same place to the sample, none over full scale', () => {
    const live = open(lane(LIMITER));
    const ids = buffers.map((_, i) => `c${i}`);
    buffers.forEach((buffer, i) => live.receive({ type: 'source', id: ids[i], buffer }));
    const levels = Object.fromEntries(
      buffers.map((buffer, i) => [
        ids[i],
        sourceLevel({ ...buffer, sampleRate: RATE }, { start: 0, end: seconds * RATE }),
      ]),
    );
    const gainsDb = matchGains(levels, 'loudness');
    live.receive({ type: 'gains', gainsDb });
    const quanta = 400;
    const heard = ids.map((id, i) => {
      live.receive({ type: 'hear', source: id, less: null });
      live.receive({ type: 'seek', frame: 10_000 });
      play(live, 40);
      const out = play(live, quanta);
      // Where in the buffer that stands: at the place that the engine says is heard, to the sample.
      const end = live.readings().frame;
      const gain = 10 ** (gainsDb[id] / 20);
      const expected = buffers[i].left.subarray(end - quanta * 128, end).map((x) => x * gain);
      expect(Math.max(...out.left.map((x, k) => Math.abs(x - expected[k])))).toBeLessThan(1e-6);
      return { ...out, sampleRate: RATE };
    });
    const loudness = heard.map((out) => sourceLevel(out, { start: 0, end: quanta * 128 }).integratedLufs);
    expect(Math.max(...loudness) - Math.min(...loudness)).toBeLessThan(0.1);
    for (const [id, { truePeakDbtp }] of Object.entries(levels))
      expect(gainsDb[id] > 0 ? truePeakDbtp + gainsDb[id] : 0).toBeLessThanOrEqual(1e-9);
  });

  test('a source can stand elsewhere than the track, and has its own loop; going there makes no click', () => {
    const ramp = Float32Array.from({ length: seconds * RATE }, (_, i) => i / (seconds * RATE));
    const live = open(lane());
    live.receive({ type: 'source', id: 'other', buffer: { left: ramp, right: ramp } });
    live.receive({ type: 'hear', source: 'other', less: null });
    live.receive({ type: 'place', id: 'other', place: { offset: 1000, loop: null } });
    play(live, 50);
    const at = (value: number) => Math.round(value * seconds * RATE);
    const { left } = play(live, 1);
    expect(at(left[127])).toBe(live.readings().frame - 1 + 1000);
    const loop = { start: 50_000, end: 60_000 };
    live.receive({ type: 'place', id: 'other', place: { offset: 50_000, loop } });
    play(live, 20);
    const places = [...play(live, 400).left].map(at);
    expect(Math.max(...places)).toBeLessThan(loop.end);
    expect(places.filter((place) => place >= loop.start).length).toBeGreaterThan(0.9 * places.length);

    const steady = open(lane());
    steady.receive({ type: 'source', id: 'tone', buffer: { left: tone, right: tone } });
    steady.receive({ type: 'hear', source: 'tone', less: null });
    const moved = play(steady, 400, {
      200: () => steady.receive({ type: 'place', id: 'tone', place: { offset: 33, loop: null } }),
    });
    expect(click(moved.left.subarray(50 * 128))).toBeLessThan(-60);
  });

  test('a difference is of any two, and a source that goes away while it is heard leaves without a click', () => {
    const live = open(lane());
    const half = { left: tone.map((x) => x / 2), right: tone.map((x) => x / 2) };
    live.receive({ type: 'source', id: 'full', buffer: { left: tone, right: tone } });
    live.receive({ type: 'source', id: 'half', buffer: half });
    live.receive({ type: 'gains', gainsDb: { half: 6.0206 } });
    live.receive({ type: 'hear', source: 'full', less: 'half' });
    play(live, 20);
    expect(db(peak(play(live, 20).left))).toBeLessThan(-100);
    live.receive({ type: 'hear', source: 'half', less: null });
    const { left } = play(live, 400, { 200: () => live.receive({ type: 'source', id: 'half', buffer: null }) });
    expect(click(left.subarray(50 * 128))).toBeLessThan(-85);
    expect(db(peak(left.subarray(300 * 128)))).toBeCloseTo(-12, 1);
  });
});
