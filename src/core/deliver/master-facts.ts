import type { IntakeReport } from '../measure/intake-report';
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

/** What is known of the master of a mix before it is delivered; a lane neither trims nor lengthens it. */
export function masterFacts(master: MasterLevels, { source, report }: KnownMix, tags?: Tags): Facts {
  return {
    integratedLufs: master.integratedLufs ?? -Infinity,
    truePeakDbtp: master.truePeakDbtp ?? -Infinity,
    maxMomentaryLufs: level(master.maxMomentaryLufs),
    maxShortTermLufs: level(master.maxShortTermLufs),
    rangeLu: master.rangeLu ?? undefined,
    durationSeconds: report?.durationSeconds,
    headSeconds: report?.headSeconds,
    tailSeconds: report?.tailSeconds,
    mix: { sampleRate: source.sampleRate, bitsUsed: report?.bitsUsed ?? null },
    file: null,
    tags,
  };
}
