import type { IntakeReport } from '../measure/intake-report';
import { firstFrame, framesWithin, spanOf, type Edges } from '../sequence/edges';
import type { Encode } from './encode';
import type { Facts } from './facts';
import type { Tags } from './tags';

/** What is measured of a master that is not yet written; null: nothing passes the gates, or silence. */
interface MasterLevels {
  integratedLufs: number | null;
  truePeakDbtp: number | null;
  maxMomentaryLufs?: number | null;
  maxShortTermLufs?: number | null;
  rangeLu?: number | null;
}

/** A mix as its page knows it. */
interface KnownMix {
  source: { sampleRate: number };
  /** Null where it was not sent along. */
  report: Pick<IntakeReport, 'bitsUsed' | 'durationSeconds' | 'headSeconds' | 'tailSeconds'> | null;
}

const level = (value: number | null | undefined) => (value === undefined ? undefined : (value ?? -Infinity));

/** Time and silence of a mix's file with its edges; without what rings on after the end, which is measured when it is made. */
function timesOf(report: NonNullable<KnownMix['report']>, sampleRate: number, edges: Edges | null | undefined) {
  const { durationSeconds, headSeconds, tailSeconds } = report;
  if (!edges) return { durationSeconds, headSeconds, tailSeconds };
  const frames = Math.round(durationSeconds * sampleRate);
  const { start, end } = spanOf(edges, sampleRate, frames);
  const first = firstFrame(edges, sampleRate);
  const sound = {
    from: Math.max(start, headSeconds * sampleRate),
    to: Math.min(end, frames - tailSeconds * sampleRate),
  };
  const length = framesWithin(edges, sampleRate, frames);
  return {
    durationSeconds: length / sampleRate,
    headSeconds: (sound.from - first) / sampleRate,
    tailSeconds: (first + length - sound.to) / sampleRate,
  };
}

/** What else decides whether a master meets a destination. */
interface MadeOf {
  tags?: Tags;
  edges?: Edges | null;
  /** What it was checked in; null peaks are those of silence. */
  encodes?: readonly (Encode & { truePeakDbtp: number | null })[];
}

/** What is known of the master of a mix before it is delivered. */
export function masterFacts(
  master: MasterLevels,
  { source, report }: KnownMix,
  { tags, edges, encodes = [] }: MadeOf = {},
): Facts {
  return {
    integratedLufs: master.integratedLufs ?? -Infinity,
    truePeakDbtp: master.truePeakDbtp ?? -Infinity,
    maxMomentaryLufs: level(master.maxMomentaryLufs),
    maxShortTermLufs: level(master.maxShortTermLufs),
    rangeLu: master.rangeLu ?? undefined,
    ...(report && timesOf(report, source.sampleRate, edges)),
    mix: { sampleRate: source.sampleRate, bitsUsed: report?.bitsUsed ?? null },
    file: null,
    encodes: encodes.map((each) => ({ ...each, truePeakDbtp: each.truePeakDbtp ?? -Infinity })),
    tags,
  };
}
