import { LANE_SCHEMA, parseLane, type Lane } from '../src/core/lane/schema';
import { IntakeMeter } from '../src/core/measure/intake';
import { Kernels } from '../src/core/kernels/host';
import { LoudnessMeter } from '../src/core/measure/loudness';
import { PeakMeter } from '../src/core/measure/peak';
import { LaneMeasurer } from '../src/engine/measure/lane-measurer';
import { BLOCK, lanes, RATE, RUNS, SECONDS, type Material } from './material';
import { ffmpeg, medianMs, medianMsOfBoth, print } from './support';

/** Trim, eight bands, limiter: what every lane has. */
export const SHORT_LANE: Lane = parseLane({
  schema: LANE_SCHEMA,
  stages: [
    { id: 't', kind: 'trim', settings: { gainDb: -3 } },
    {
      id: 'e',
      kind: 'equalizer',
      settings: {
        bands: [30, 90, 250, 600, 1500, 3400, 7000, 12000].map((frequencyHz, i) => ({
          shape: 'bell',
          frequencyHz,
          gainDb: i % 2 ? -2 : 2,
          q: 1.2,
        })),
      },
    },
    { id: 'l', kind: 'limiter', settings: { inputGainDb: 8 } },
  ],
});

const COMPRESSOR = {
  kind: 'compressor',
  settings: { thresholdDbfs: -18, ratio: 2, attackMs: 30, releaseMs: 150, sideChainHighPassHz: 80 },
};
const THREE_BANDS = {
  kind: 'bandDynamics',
  settings: {
    bands: [-24, -26, -30, 0, 0].map((thresholdDbfs) => ({ compression: { thresholdDbfs, ratio: 2 } })),
  },
};
const WIDTH = { kind: 'stereo', settings: { monoBelow: true, widthsPercent: [110, 110, 110, 110, 110] } };

/** The reference lane of the shaping stages: trim, eight bands, compressor, three bands of dynamics, width, limiter. */
export const REFERENCE_LANE: Lane = lanes(
  SHORT_LANE.stages[0],
  SHORT_LANE.stages[1],
  COMPRESSOR,
  THREE_BANDS,
  WIDTH,
  SHORT_LANE.stages[2],
);

/** What of ffmpeg comes nearest to it, meters included; the compressor's times are those of the lane. */
export const nearestChain = (loudEnd = '') => {
  const bands = [30, 90, 250, 600, 1500, 3400, 7000, 12000]
    .map((hz, i) => `equalizer=f=${hz}:t=q:w=1.2:g=${i % 2 ? -2 : 2}`)
    .join(',');
  const compressor = (threshold: number) => `acompressor=threshold=${threshold}dB:ratio=2:attack=20:release=150:knee=2`;
  const split = 'acrossover=split=160 2500:order=4th[a][b][c]';
  const band = (from: string, to: string, threshold: number) => `[${from}]${compressor(threshold)}[${to}]`;
  return [
    `volume=-3dB,${bands},${compressor(-18)},${split}`,
    ...[band('a', 'd', -24), band('b', 'e', -26), band('c', 'f', -30)],
    `[d][e][f]amix=inputs=3:normalize=0,stereotools=slev=1.1,${loudEnd}alimiter=level_in=8dB:limit=0.89:attack=5:release=120:level=0,ebur128=peak=true:framelog=verbose`,
  ].join(';');
};

/** Speed of the core on one thread, and against ffmpeg on the same file. */
export async function benchCore(material: Material): Promise<void> {
  const { file, audio, interleaved, decoding, blocks, lane, speed, perFrame } = material;
  const calm = { turn: () => Promise.resolve() };
  const analysis = await medianMs(RUNS, () => {
    const kernels = new Kernels();
    const [l, r] = [kernels.allocate(BLOCK * 8), kernels.allocate(BLOCK * 8)];
    const loudness = new LoudnessMeter(kernels, RATE, SECONDS * 100 + 1);
    const peak = new PeakMeter(kernels, BLOCK);
    const [left, right] = [kernels.view64(l, BLOCK), kernels.view64(r, BLOCK)];
    blocks((a, b) => {
      left.set(a);
      right.set(b);
      loudness.add(l, r, BLOCK);
      peak.add(l, r, BLOCK);
    });
    return [loudness.report(), peak.truePeaks()];
  });
  const reference = (await medianMs(3, () => ffmpeg(file, 'ebur128=peak=true:framelog=verbose'))) - decoding;
  const intake = await medianMs(3, () => {
    const meter = new IntakeMeter(RATE, audio.left.length);
    for (let at = 0; at < interleaved.length; at += 8192) meter.add(interleaved.subarray(at, at + 8192));
    return meter.result();
  });
  print('Analysis of a 4-minute mix at 44.1 kHz, one thread', [
    { what: 'loudness, range and true peak', figure: speed(analysis) },
    { what: 'the same by ffmpeg ebur128, decoding taken off', figure: speed(reference) },
    { what: 'ratio', figure: `${(reference / analysis).toFixed(1)} × as fast`, aim: 'at least 4' },
    { what: 'everything that intake measures', figure: speed(intake) },
  ]);

  const first = await medianMs(3, () => new LaneMeasurer(audio).run(SHORT_LANE, calm));
  const pass = new LaneMeasurer(audio);
  let drive = 0;
  const last = await medianMs(RUNS, () => {
    const lane = structuredClone(SHORT_LANE);
    const limiter = lane.stages[2];
    if (limiter.kind === 'limiter') limiter.settings.inputGainDb = 6 + (drive += 0.1);
    return pass.run(lane, calm);
  });
  const running = await medianMs(RUNS, lane(SHORT_LANE, SECONDS * 100 + 1));
  print('Trim, eight bands and limiter on the same mix, one thread', [
    { what: 'lane with the meters of all joints', figure: speed(running), aim: 'at least 120 ×' },
    { what: 'whole full pass with drawings', figure: `${speed(first)}, ${first.toFixed(0)} ms` },
    { what: 'full pass after a change of the last stage', figure: `${last.toFixed(0)} ms` },
  ]);

  const [shaped, whole] = await medianMsOfBoth(RUNS, lane(REFERENCE_LANE, SECONDS * 100 + 1), () =>
    ffmpeg(file, nearestChain(), '-filter_complex'),
  );
  const nearest = whole - decoding;
  print('The reference lane on the same mix, one thread', [
    { what: 'lane with the meters of all joints', figure: speed(shaped), aim: 'at least 100 ×' },
    { what: 'ffmpeg’s nearest chain with its meter, decoding taken off', figure: speed(nearest) },
    { what: 'ratio', figure: `${(nearest / shaped).toFixed(1)} × as fast`, aim: 'at least 4' },
  ]);

  const empty = await medianMs(RUNS, lane(lanes(), 0));
  const stages = [];
  const bell = { shape: 'bell', frequencyHz: 3000, q: 2 };
  const moving = { ...bell, dynamics: { thresholdDbfs: -40 } };
  const each: [what: string, stage: unknown][] = [
    ...SHORT_LANE.stages.map((stage): [string, unknown] => [stage.kind, stage]),
    ['equalizer, one band that moves', { kind: 'equalizer', settings: { bands: [moving] } }],
    ['de-esser', { kind: 'deEsser', settings: { thresholdDb: -20 } }],
    ['compressor', COMPRESSOR],
    ['compressor, FET', { ...COMPRESSOR, settings: { ...COMPRESSOR.settings, circuit: 'fet', autoRelease: true } }],
    ['band dynamics, three bands compressing', THREE_BANDS],
    ['stereo, mono bass and one width', WIDTH],
    [
      'stereo, a width for each of three bands',
      { kind: 'stereo', settings: { widthsPercent: [0, 100, 120, 100, 100] } },
    ],
    ['room, studio', { kind: 'room', settings: { wetDb: -24 } }],
    ['room, hall', { kind: 'room', settings: { wetDb: -24, impulse: 'hall' } }],
    ['equalizer, linear phase', { kind: 'equalizer', settings: { phase: 'linear', bands: [bell] } }],
  ];
  for (const [what, stage] of each) {
    const ms = await medianMs(RUNS, lane(lanes(stage), 0));
    stages.push({ what, figure: perFrame(ms - empty) });
  }
  print('Nanoseconds per stereo frame', [...stages, { what: 'copying in and out', figure: perFrame(empty) }]);

  const sixteen = Array.from({ length: 16 }, (_, i) => ({
    frequencyHz: Math.round(30 * 1.5 ** i),
    gainDb: i % 2 ? -2 : 2,
    q: 1.2,
  }));
  const ours =
    (await medianMs(
      RUNS,
      lane(lanes({ kind: 'equalizer', settings: { bands: sixteen.map((band) => ({ shape: 'bell', ...band })) } }), 0),
    )) - empty;
  const chain = sixteen
    .map(({ frequencyHz, gainDb, q }) => `equalizer=f=${frequencyHz}:t=q:w=${q}:g=${gainDb}`)
    .join(',');
  const theirs = (await medianMs(3, () => ffmpeg(file, `aformat=dblp,${chain}`))) - decoding;
  print('Sixteen bells', [
    { what: 'the equalizer', figure: perFrame(ours) },
    { what: '16 ffmpeg equalizer filters in float64, decoding taken off', figure: perFrame(theirs) },
    { what: 'ratio', figure: `${(theirs / ours).toFixed(1)} × as fast`, aim: 'at least 3' },
  ]);

  const full = await medianMs(RUNS, lane(SHORT_LANE, 0));
  const quiet = await medianMs(RUNS, lane(SHORT_LANE, 0, RATE * 20));
  print('Music followed by silence', [
    {
      what: '20 s of music, then silence, against music throughout',
      figure: `${(quiet / full).toFixed(2)} × the time`,
      aim: 'at most 1',
    },
  ]);
}
