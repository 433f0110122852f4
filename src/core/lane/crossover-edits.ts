import { bandEdges, CLOSEST, MAX_CROSSOVERS, type Crossovers } from '../stages/bands/crossovers';
import { traitsOf } from '../stages/registry';
import { withEverySettings } from './alternatives';
import type { Lane, Stage } from './schema';

/** Hz at which a band without an edge ends. */
const ENDS = [20, 20000];

/** Where a band can be split in two: the middle of its octaves; null where there is no room, or there are bands enough. */
export function splitFrequency(crossovers: Crossovers, band: number): number | null {
  if (crossovers.frequenciesHz.length >= MAX_CROSSOVERS) return null;
  const [from, to] = bandEdges(crossovers, band);
  const middle = Math.round(Math.sqrt(Math.max(from, ENDS[0]) * Math.min(to, ENDS[1])));
  const room = (from === 0 || middle >= from * CLOSEST) && (to === Infinity || to >= middle * CLOSEST);
  return room ? middle : null;
}

/** Changes what each stage keeps for its bands. */
function withBands(lane: Lane, change: <Band>(bands: Band[], fresh: Band) => Band[]): Stage[] {
  return lane.stages.map((stage) => {
    const { withBands: changed } = traitsOf<Stage>(stage).byBands ?? {};
    return changed ? withEverySettings(stage, (settings) => changed(settings, change)) : stage;
  });
}

/** The lane with a band split in two, both keeping its settings; the same lane where there is no room. */
export function withBandSplit(lane: Lane, band: number): Lane {
  const frequencyHz = splitFrequency(lane.crossovers, band);
  if (frequencyHz === null) return lane;
  const { frequenciesHz } = lane.crossovers;
  return {
    ...lane,
    crossovers: {
      ...lane.crossovers,
      frequenciesHz: [...frequenciesHz.slice(0, band), frequencyHz, ...frequenciesHz.slice(band)],
    },
    stages: withBands(lane, (bands) => [...bands.slice(0, band + 1), ...bands.slice(band, -1)]),
  };
}

/** The lane without a crossover: the band above it merges into the one below, whose settings stay. One crossover always stays. */
export function withCrossoverRemoved(lane: Lane, index: number): Lane {
  const { frequenciesHz } = lane.crossovers;
  if (frequenciesHz.length === 1) return lane;
  return {
    ...lane,
    crossovers: { ...lane.crossovers, frequenciesHz: frequenciesHz.filter((_, i) => i !== index) },
    stages: withBands(lane, (bands, fresh) => [...bands.filter((_, i) => i !== index + 1), fresh]),
  };
}
