import fc from 'fast-check';
import { LANE_SCHEMA, parseLane } from '../lane/schema';
import { destinationSchema, NOTHING_ASKED, type Destination } from './destination';
import { handholdsOf, meet, MEETING_LU, MOST_PASSES, movedTo, type LevelReading, type Means } from './meet';

const laneOf = (...stages: { kind: string; settings?: object; on?: boolean }[]) =>
  parseLane({ schema: LANE_SCHEMA, stages: stages.map((stage, i) => ({ id: `${i}`, settings: {}, ...stage })) });
const LANE = laneOf(
  { kind: 'compressor', settings: { makeupDb: 1 } },
  { kind: 'clipper', settings: { inputGainDb: 2 } },
  { kind: 'limiter', settings: { inputGainDb: 3, ceilingDbtp: -0.5 } },
);
const hold = (means: Means, lane = LANE) => handholdsOf(lane).find((each) => each.means === means)!;

const asked = (more: object): Destination =>
  destinationSchema.parse({
    ...NOTHING_ASKED,
    ...{ name: 'Test', source: '', truePeak: { maxDbtp: -1 }, sampleRate: { rule: 'mix' } },
    wordLength: { bits: 24, dither: 'TPDF', digitalSilence: false, reducedOnce: false },
    format: { name: 'WAV', kbps: null },
    ...more,
  });
const target = (lufs: number, more: object = {}) =>
  asked({ loudness: { rule: 'target', lufs, toleranceLu: 0.5 }, ...more });

/** A limiter as a curve: drive gives ever less loudness, and peaks stay at the ceiling. */
function limiterLike(lufsAtZero: number, knee: number, floor: number) {
  return (drive: number, ceilingDbtp: number): LevelReading => {
    const given = drive - (1 - floor) * knee * Math.log1p(Math.exp((drive - 6) / knee));
    const integratedLufs = lufsAtZero + given + ceilingDbtp;
    return {
      integratedLufs,
      ...{ maxMomentaryLufs: integratedLufs + 4, maxShortTermLufs: integratedLufs + 2 },
      truePeakDbtp: ceilingDbtp,
    };
  };
}

const ofLane = (curve: ReturnType<typeof limiterLike>) => {
  const calls: number[] = [];
  const measure = (lane: typeof LANE) => {
    const { settings } = lane.stages[2] as { settings: { inputGainDb: number; ceilingDbtp: number } };
    calls.push(settings.inputGainDb);
    return Promise.resolve(curve(settings.inputGainDb, settings.ceilingDbtp));
  };
  return { calls, measure };
};

test('what can be moved is the last of its kind that is on, and a trim at the end', () => {
  expect(handholdsOf(LANE)).toMatchObject([
    { means: 'limiter', stageId: '2', setting: 'inputGainDb', value: 3, title: 'Limiter, input gain' },
    { means: 'clipper', stageId: '1', setting: 'inputGainDb', value: 2 },
    { means: 'makeup', stageId: '0', setting: 'makeupDb', value: 1 },
    { means: 'trim', stageId: null, value: 0 },
  ]);
  const trimmed = laneOf({ kind: 'limiter', on: false }, { kind: 'trim', settings: { gainDb: -2 } });
  expect(handholdsOf(trimmed)).toMatchObject([{ means: 'trim', stageId: '1', value: -2 }]);
  // A trim for each channel is not moved as one.
  expect(handholdsOf(laneOf({ kind: 'trim', settings: { linked: false } }))).toMatchObject([{ stageId: null }]);
  expect(movedTo(LANE, hold('trim'), 0)).toBe(LANE);
  expect(parseLane(movedTo(LANE, hold('trim'), -1.5)).stages[3]).toMatchObject({ settings: { gainDb: -1.5 } });
});

test('whatever the limiter gives, the target is met in eight passes, or the end of its range or of its effect is told', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.double({ min: -30, max: -10, noNaN: true }),
      fc.double({ min: 0.3, max: 6, noNaN: true }),
      fc.double({ min: 0.05, max: 1, noNaN: true }),
      fc.double({ min: -26, max: -6, noNaN: true }),
      async (lufsAtZero, knee, floor, lufs) => {
        const curve = limiterLike(lufsAtZero, knee, floor);
        const { calls, measure } = ofLane(curve);
        const met = await meet(LANE, target(lufs), hold('limiter'), measure);
        expect(calls.length).toBeLessThanOrEqual(MOST_PASSES);
        expect(met.ceilingDbtp).toBe(-1);
        expect(met.met).toBe(Math.abs(met.reading.integratedLufs - lufs) <= MEETING_LU);
        const [least, most] = [-12, 24].map((drive) => curve(drive, -1).integratedLufs);
        if (lufs > least && lufs < most) expect(met).toMatchObject({ met: true, obstacle: null });
        else if (!met.met) expect(met.obstacle).toBe('range');
      },
    ),
    { numRuns: 500 },
  );
});

test('a ceiling that is too high is lowered, one that is lower stays', async () => {
  const { measure } = ofLane(limiterLike(-18, 2, 0.4));
  expect(await meet(LANE, target(-14), hold('limiter'), measure)).toMatchObject({ met: true, ceilingDbtp: -1 });
  expect(await meet(LANE, target(-14, { truePeak: { maxDbtp: -0.2 } }), hold('limiter'), measure)).toMatchObject({
    ...{ met: true, ceilingDbtp: null },
  });
  // An encode needs it lower still.
  expect(await meet(LANE, target(-14), hold('limiter'), measure, -1.63)).toMatchObject({
    met: true,
    ceilingDbtp: -1.63,
  });
});

test('what lets peaks pass the ceiling is made up for by a lower one', async () => {
  const curve = limiterLike(-18, 2, 0.4);
  const leaking = (drive: number, ceilingDbtp: number) => ({
    ...curve(drive, ceilingDbtp),
    truePeakDbtp: ceilingDbtp + 0.7,
  });
  const met = await meet(LANE, target(-14), hold('limiter'), ofLane(leaking).measure);
  expect(met.met).toBe(true);
  expect(met.reading.truePeakDbtp).toBeLessThanOrEqual(-1 + 0.05);
});

test('a trim lowers in two passes; upwards it goes as far as the peaks allow, and says that they are in the way', async () => {
  const at = (gainDb: number): LevelReading => ({
    ...{ integratedLufs: -14 + gainDb, maxMomentaryLufs: -10 + gainDb, maxShortTermLufs: -12 + gainDb },
    truePeakDbtp: -1.4 + gainDb,
  });
  const measure = ({ stages }: typeof LANE) => {
    const trim = stages[3] as { settings: { gainDb: number } } | undefined;
    return Promise.resolve(at(trim?.settings.gainDb ?? 0));
  };
  expect(await meet(LANE, target(-23), hold('trim'), measure)).toMatchObject({
    ...{ met: true, passes: 2, value: -9, ceilingDbtp: null },
  });
  const nearest = await meet(LANE, target(-9), hold('trim'), measure);
  expect(nearest).toMatchObject({ met: false, obstacle: 'peaks' });
  expect(nearest.value).toBeCloseTo(0.4, 1);
  expect(nearest.missingDb).toBeCloseTo(4.6, 1);
});

test('a maximum is kept to and not aimed for; moments that stand out keep a master from its target', async () => {
  const { measure } = ofLane(limiterLike(-18, 2, 0.4));
  const maximum = asked({ loudness: { rule: 'maximum', lufs: -14 } });
  expect(await meet(LANE, maximum, hold('limiter'), measure)).toMatchObject({ met: true, value: 3, passes: 1 });
  const loud = movedTo(LANE, hold('limiter'), 12);
  const lowered = await meet(loud, maximum, hold('limiter', loud), measure);
  expect(lowered.met).toBe(true);
  expect(Math.abs(lowered.reading.integratedLufs + 14)).toBeLessThanOrEqual(MEETING_LU);
  const short = target(-14, { shortTerm: { maxLufs: -14 } });
  const held = await meet(LANE, short, hold('limiter'), measure);
  expect(held).toMatchObject({ met: false, obstacle: 'moments' });
  expect(Math.abs(held.reading.maxShortTermLufs + 14)).toBeLessThanOrEqual(MEETING_LU);
});

test('more drive that gives nothing is told, and so is silence', async () => {
  const flat = (drive: number) => ({ ...limiterLike(-18, 2, 0.4)(Math.min(drive, 5), -1) });
  expect(await meet(LANE, target(-8), hold('limiter'), ofLane(flat).measure)).toMatchObject({
    ...{ met: false, obstacle: 'saturated' },
  });
  const silent = () => ({
    integratedLufs: -Infinity,
    maxMomentaryLufs: -Infinity,
    maxShortTermLufs: -Infinity,
    truePeakDbtp: -Infinity,
  });
  expect(await meet(LANE, target(-14), hold('limiter'), () => Promise.resolve(silent()))).toMatchObject({
    ...{ met: false, obstacle: 'silence', passes: 1 },
  });
});
