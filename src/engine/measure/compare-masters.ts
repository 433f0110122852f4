import { stageTitle, type Lane, type Stage } from '../../core/lane/schema';
import { clock, figure } from '../../core/measure/figure';
import { TRACE_FRAMES, type Measurement } from './measurement';

/** A version as it was measured: its lane, and what that makes of the mix. */
export interface MeasuredVersion {
  lane: Lane;
  measurement: Measurement;
}

/** Differences smaller than this are not told, in dB or LU. */
const TOLD = 0.1;
/** Of the loudness range and the place where loudness differs most, in LU. */
const TOLD_RANGE = 0.5;
/** Windows of loudness a second. */
const SHORT_TERM_PER_SECOND = 10;

const more = (value: number, unit: string, up: string, down: string) =>
  `${figure(Math.abs(value))} ${unit} ${value > 0 ? up : down}`;

/** Where a trace is larger than another by most, and by how much; null where neither has values. */
function mostApart(a: Float32Array | null, b: Float32Array | null): { index: number; apart: number } | null {
  let found: { index: number; apart: number } | null = null;
  const length = Math.max(a?.length ?? 0, b?.length ?? 0);
  for (let i = 0; i < length; i++) {
    const apart = (b?.[i] ?? 0) - (a?.[i] ?? 0);
    if (Number.isFinite(apart) && Math.abs(apart) > Math.abs(found?.apart ?? 0)) found = { index: i, apart };
  }
  return found;
}

const largest = (trace: Float32Array | null) => (trace ? trace.reduce((most, value) => Math.max(most, value), 0) : 0);

/** Stages that are on, each with its gain reduction, numbered where a kind occurs more than once. */
function runningStages({ lane, measurement }: MeasuredVersion) {
  const seen = new Map<string, number>();
  return lane.stages.flatMap((stage: Stage, i) => {
    if (!stage.on) return [];
    const title = stageTitle(stage).toLowerCase();
    const count = (seen.get(title) ?? 0) + 1;
    seen.set(title, count);
    return [{ name: count > 1 ? `${title} ${count}` : title, reduction: measurement.gainReduction[i] }];
  });
}

/** What happens with a stage that one of two versions lacks, or that takes more in one of them. */
function stageSentences(a: MeasuredVersion, b: MeasuredVersion, sampleRate: number): string[] {
  const [inA, inB] = [runningStages(a), runningStages(b)];
  const has = (list: typeof inA, name: string) => list.find((stage) => stage.name === name);
  const both = inB.flatMap(({ name, reduction }) => {
    const other = has(inA, name);
    const apart = largest(reduction) - largest(other?.reduction ?? null);
    if (!other || Math.abs(apart) < TOLD) return [];
    const place = mostApart(other.reduction, reduction);
    const where = place ? `, most at ${clock((place.index * TRACE_FRAMES) / sampleRate, 0)}` : '';
    return [`Its ${name} takes ${more(apart, 'dB', 'more', 'less')}${where}.`];
  });
  const only = (list: typeof inA, other: typeof inA) =>
    list.flatMap(({ name }) => (has(other, name) ? [] : [name])).join(', ');
  const [gained, lacking] = [only(inB, inA), only(inA, inB)];
  return [...both, ...(gained ? [`Only B has: ${gained}.`] : []), ...(lacking ? [`Only A has: ${lacking}.`] : [])];
}

/** What tells version B from version A, in sentences: loudness, dynamics, peaks, and what their stages do. */
export function compareMasters(a: MeasuredVersion, b: MeasuredVersion, sampleRate: number): string[] {
  const [from, to] = [a.measurement.master, b.measurement.master];
  const difference = (value: (of: typeof from) => number) => {
    const apart = value(to) - value(from);
    return Number.isFinite(apart) ? apart : 0;
  };
  const sentences: string[] = [];
  const loudness = difference(({ integratedLufs }) => integratedLufs);
  if (Math.abs(loudness) >= TOLD) sentences.push(`B is ${more(loudness, 'LU', 'louder', 'quieter')}.`);
  const plr = difference(({ plrLu }) => plrLu);
  if (Math.abs(plr) >= TOLD) sentences.push(`Its PLR is ${more(plr, 'LU', 'higher', 'lower')}.`);
  const range = difference(({ rangeLu }) => rangeLu);
  if (Math.abs(range) >= TOLD_RANGE) sentences.push(`Its loudness range is ${more(range, 'LU', 'wider', 'narrower')}.`);
  const peak = difference(({ truePeakDbtp }) => truePeakDbtp);
  if (Math.abs(peak) >= TOLD) sentences.push(`Its true peak is ${more(peak, 'dB', 'higher', 'lower')}.`);
  const overs = to.overs.length - from.overs.length;
  if (overs !== 0)
    sentences.push(
      `It has ${Math.abs(overs)} ${Math.abs(overs) === 1 ? 'over' : 'overs'} ${overs > 0 ? 'more' : 'less'}.`,
    );
  // At equal loudness: what the arrangement of loud and quiet differs by.
  const level = Float32Array.from(from.shortTerm, (lufs) => lufs + loudness);
  const place = mostApart(level, to.shortTerm);
  if (place && Math.abs(place.apart) >= TOLD_RANGE)
    sentences.push(
      `At equal loudness it is ${more(place.apart, 'LU', 'louder', 'quieter')} around ${clock((place.index + 1) / SHORT_TERM_PER_SECOND, 0)}, where the two differ most.`,
    );
  sentences.push(...stageSentences(a, b, sampleRate));
  return sentences.length > 0 ? sentences : ['The two measure alike: what differs between them is below 0.1 dB.'];
}
