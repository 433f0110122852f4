import { truePeakRoomDb } from '../../core/deliver/true-peak-limit';

/** What sources are matched by. */
export const MATCHINGS = ['loudness', 'loop', 'truePeak', 'none'] as const;
export type Matching = (typeof MATCHINGS)[number];

/** What is known of a source. */
export interface SourceLevel {
  /** LUFS: of the whole source, or of the passage it is matched by. */
  integratedLufs: number;
  /** dBTP of the whole source. */
  truePeakDbtp: number;
}

/** What normalisation plays a source at: a loudness in LUFS, and the true peak in dBTP that raising keeps to. */
export interface Normalisation {
  targetLufs: number;
  maxTruePeakDbtp: number;
}

/** What a source is matched by: its true peak, else its loudness. */
function levelOf({ integratedLufs, truePeakDbtp }: SourceLevel, matching: Matching): number {
  return matching === 'truePeak' ? truePeakDbtp : integratedLufs;
}

/**
 * Gains in dB, by the ids of the sources, that give all of them the same loudness or the same true peak: that of the
 * loudest, or the highest at which none is raised over full scale on the way to the ear. A source that is silent, or whose
 * level is not known (it is left out), counts for nothing and gets 0; so do all of them without matching.
 */
export function matchGains(levels: Readonly<Record<string, SourceLevel>>, matching: Matching): Record<string, number> {
  const sources = Object.entries(levels);
  const counting = sources.flatMap(([, source]) => (Number.isFinite(levelOf(source, matching)) ? [source] : []));
  const loudest = Math.max(...counting.map((source) => levelOf(source, matching)));
  const roomiest = Math.min(...counting.map((source) => levelOf(source, matching) + Math.max(0, -source.truePeakDbtp)));
  const target = Math.min(loudest, roomiest);
  return Object.fromEntries(
    sources.map(([id, source]) => {
      const gainDb = target - levelOf(source, matching);
      return [id, matching === 'none' || !Number.isFinite(gainDb) ? 0 : gainDb];
    }),
  );
}

/**
 * Gains in dB that normalisation applies: down to the target, and up to it as far as the true peak stays within its limit
 * (AES TD1008: gain is positive only where there is headroom).
 */
export function normalisationGains(
  levels: Readonly<Record<string, SourceLevel>>,
  { targetLufs, maxTruePeakDbtp }: Normalisation,
): Record<string, number> {
  return Object.fromEntries(
    Object.entries(levels).map(([id, { integratedLufs, truePeakDbtp }]) => {
      const wanted = targetLufs - integratedLufs;
      const room = truePeakRoomDb(truePeakDbtp, maxTruePeakDbtp);
      return [id, Number.isFinite(wanted) ? Math.min(wanted, room) : 0];
    }),
  );
}
