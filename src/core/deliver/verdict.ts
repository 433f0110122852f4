import { z } from 'zod';
import { figure } from '../measure/figure';
import type { Destination } from './destination';
import { sameEncode } from './encode';
import { atLevel, type Facts } from './facts';
import { requirementSchema, requirementsOf, standingSchema, type Requirement } from './requirement';
import { truePeakExcessDb, truePeakRoomDb } from './true-peak-limit';

export const verdictSchema = z.object({
  standing: standingSchema,
  requirements: z.array(requirementSchema),
  /** Change of level in dB that would bring the loudness within its limits; null when none is needed or none can. */
  levelDb: z.number().nullable(),
  /** The steps that would fix what misses, as sentences. */
  remedies: z.array(z.string()),
});
export type Verdict = z.infer<typeof verdictSchema>;

/** To a tenth of a dB, the step in which levels are set: downwards for a maximum. */
const tenth = (value: number) => Math.round(value * 10) / 10;
const tenthBelow = (value: number) => Math.floor(value * 10 + 1e-6) / 10;

/** Titles of the requirements that a change of level alone can meet. */
const BY_LEVEL = new Set(['Loudness', 'Momentary', 'Short-term']);

function missing(requirements: readonly Requirement[]): Requirement[] {
  return requirements.filter(({ standing, advice }) => standing === 'misses' && !advice);
}

/** Change of level in dB that meets every requirement of loudness; null when none is needed, or none meets them all. */
function levelFor(destination: Destination, facts: Facts, requirements: readonly Requirement[]): number | null {
  if (!missing(requirements).some(({ title }) => BY_LEVEL.has(title))) return null;
  const { loudness, momentary, shortTerm } = destination;
  let levelDb = 0;
  if (loudness?.rule === 'target') {
    const away = facts.integratedLufs - loudness.lufs;
    if (Math.abs(tenth(away)) > loudness.toleranceLu + 1e-9) levelDb = tenth(-away);
  }
  const maxima = [
    [facts.integratedLufs, loudness?.rule === 'maximum' ? loudness.lufs : null],
    [facts.maxMomentaryLufs, momentary?.maxLufs],
    [facts.maxShortTermLufs, shortTerm?.maxLufs],
  ] as const;
  for (const [measured, max] of maxima)
    if (typeof max === 'number' && measured !== undefined && tenth(measured + levelDb) > max + 1e-9)
      levelDb = tenthBelow(max - measured);
  const after = requirementsOf(destination, atLevel(facts, levelDb));
  return missing(after).some(({ title }) => BY_LEVEL.has(title)) ? null : levelDb;
}

/** The step that each miss of another kind needs. */
const STEPS: Record<string, string> = {
  Momentary: 'Hold the loudest moments down: the whole has the right level, and they stand out too far.',
  'Short-term': 'Hold the loudest passage down: the whole has the right level, and it stands out too far.',
  'Loudness range': 'Narrow it: ride the quiet passages up, or compress slowly.',
  PLR: 'Limit and clip less: the peaks are too close to the loudness.',
  'Sample rate': 'Ask for the mix at the rate it was made at.',
  Mix: 'Ask for the mix at 24 bits or in float, without dither.',
  Duration: 'Check the start and the end of the mix, and whether this is the right destination.',
  'Silence at the head': 'Trim the start of the mix.',
  'Silence at the tail': 'Trim the end of the mix.',
  Tags: 'Fill them in on the page of the release.',
};

function remediesFor(
  { truePeak, encodes }: Destination,
  facts: Facts,
  requirements: readonly Requirement[],
  levelDb: number | null,
): string[] {
  const misses = missing(requirements);
  const remedies: string[] = [];
  if (levelDb !== null && levelDb < 0)
    remedies.push(`Lower by ${figure(-levelDb)} dB at delivery: nothing else changes.`);
  if (levelDb !== null && levelDb > 0) {
    const room = truePeakRoomDb(facts.truePeakDbtp, truePeak.maxDbtp);
    remedies.push(
      room >= levelDb
        ? `Raise by ${figure(levelDb)} dB at delivery: the true peak has room for it.`
        : `Raise by ${figure(levelDb)} dB through a limiter: the true peak has room for ${figure(room)} dB only.`,
    );
  }
  // A lowered delivery takes its peaks down with it.
  const lowered = Math.min(0, levelDb ?? 0);
  const excess = truePeakExcessDb(facts.truePeakDbtp + lowered, truePeak.maxDbtp);
  if (excess > 0)
    remedies.push(
      `Lower the peaks by ${figure(Math.ceil(excess * 10 - 0.5) / 10)} dB: set a limiter's ceiling to ${figure(truePeak.maxDbtp)} dBTP.`,
    );
  const inEncodes = encodes.map(({ maxDbtp, ...encode }) => {
    const measured = facts.encodes?.find((each) => sameEncode(each, encode));
    return measured ? truePeakExcessDb(measured.truePeakDbtp + lowered, maxDbtp) : 0;
  });
  const most = Math.max(0, ...inEncodes);
  if (most > 0)
    remedies.push(
      `Peaks grow in the encode: lower the ceiling or the level by about ${figure(Math.ceil(most * 10) / 10)} dB, and check it again.`,
    );
  const steps = misses.flatMap(({ title }) =>
    Object.hasOwn(STEPS, title) && !(BY_LEVEL.has(title) && levelDb !== null) ? [STEPS[title]] : [],
  );
  return [...remedies, ...new Set(steps)];
}

/** Holds what is known of a master or of a finished file against a destination. */
export function judge(destination: Destination, facts: Facts): Verdict {
  const requirements = requirementsOf(destination, facts);
  const standings = requirements.filter(({ advice }) => !advice).map(({ standing }) => standing);
  const levelDb = levelFor(destination, facts, requirements);
  return {
    standing: standings.includes('misses') ? 'misses' : standings.includes('unknown') ? 'unknown' : 'meets',
    requirements,
    levelDb,
    remedies: remediesFor(destination, facts, requirements, levelDb),
  };
}

/**
 * Change of level in dB at delivery that brings a master to a destination's loudness; 0 where none is needed, or where
 * the true peak has no room for it.
 */
function levelAtDelivery({ truePeak }: Destination, { truePeakDbtp }: Facts, verdict: Verdict): number {
  const levelDb = verdict.levelDb ?? 0;
  return levelDb < 0 || levelDb <= truePeakRoomDb(truePeakDbtp, truePeak.maxDbtp) ? levelDb : 0;
}

/** The level that a master is delivered at, and what its destination says of it there. */
export interface AtDelivery {
  /** Change of level in dB after the lane. */
  levelDb: number;
  verdict: Verdict;
}

/** Holds a master against a destination at the level at which it would be delivered; `adjust` lets that level change. */
export function judgeAtDelivery(destination: Destination, facts: Facts, adjust: boolean): AtDelivery {
  const verdict = judge(destination, facts);
  const levelDb = adjust ? levelAtDelivery(destination, facts, verdict) : 0;
  return { levelDb, verdict: levelDb === 0 ? verdict : judge(destination, atLevel(facts, levelDb)) };
}
