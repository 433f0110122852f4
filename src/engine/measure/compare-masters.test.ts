import { LANE_SCHEMA, parseLane } from '../../core/lane/schema';
import { compareMasters, type MeasuredVersion } from './compare-masters';
import { TRACE_FRAMES, type Measurement } from './measurement';

const RATE = 44100;
const MASTER = { integratedLufs: -14, plrLu: 13, rangeLu: 5, truePeakDbtp: -1 };

/** A version with stages, what was measured of its master, and the gain reduction of each stage. */
function version(kinds: string[], master: object = {}, reductions: (number[] | null)[] = []): MeasuredVersion {
  const stages = kinds.map((kind, i) => ({ id: `${i}`, kind, settings: {} }));
  const measurement = {
    master: { ...MASTER, shortTerm: new Float32Array(600).fill(-14), overs: new Float32Array(0), ...master },
    gainReduction: kinds.map((_, i) => (reductions[i] ? Float32Array.from(reductions[i]) : null)),
  };
  return {
    lane: parseLane({ schema: LANE_SCHEMA, stages }),
    measurement: measurement as unknown as Measurement,
  };
}

test('two that measure alike are said to', () => {
  const one = version(['limiter'], {}, [[1, 2]]);
  expect(compareMasters(one, version(['limiter'], { integratedLufs: -14.05 }, [[1, 2]]), RATE)).toEqual([
    'The two measure alike: what differs between them is below 0.1 dB.',
  ]);
});

test('loudness, dynamics, peaks and what a stage takes are told, with the place', () => {
  const seconds = (at: number) => Math.round((at * RATE) / TRACE_FRAMES);
  const trace = new Array<number>(seconds(40)).fill(0.5);
  const deeper = trace.map((value, i) => (i === seconds(31) + 1 ? 2.6 : value));
  const a = version(['limiter'], {}, [trace]);
  const b = version(
    ['limiter'],
    {
      ...{ integratedLufs: -13.2, plrLu: 11.8, rangeLu: 4.2, truePeakDbtp: -0.7, overs: Float32Array.of(3) },
      shortTerm: new Float32Array(600).fill(-13.2),
    },
    [deeper],
  );
  expect(compareMasters(a, b, RATE)).toEqual([
    'B is 0.8 LU louder.',
    'Its PLR is 1.2 LU lower.',
    'Its loudness range is 0.8 LU narrower.',
    'Its true peak is 0.3 dB higher.',
    'It has 1 over more.',
    'Its limiter takes 2.1 dB more, most at 0:31.',
  ]);
  expect(compareMasters(b, a, RATE).slice(0, 2)).toEqual(['B is 0.8 LU quieter.', 'Its PLR is 1.2 LU higher.']);
});

test('where the two differ most at equal loudness is told, and silence is no difference', () => {
  const shortTerm = new Float32Array(600).fill(-14);
  const louder = shortTerm.map((lufs, i) => (i === 299 ? lufs + 3 : lufs));
  shortTerm[0] = louder[0] = -Infinity;
  expect(compareMasters(version([], { shortTerm }), version([], { shortTerm: louder }), RATE)).toEqual([
    'At equal loudness it is 3.0 LU louder around 0:30, where the two differ most.',
  ]);
});

test('stages that only one has are named, two of a kind apart', () => {
  const a = version(['trim', 'limiter']);
  const b = version(['clipper', 'limiter', 'limiter']);
  expect(compareMasters(a, b, RATE)).toEqual(['Only B has: clipper, limiter 2.', 'Only A has: trim.']);
});
