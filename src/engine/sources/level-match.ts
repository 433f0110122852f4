/** What sources are matched by. */
export const MATCHINGS = ['loudness', 'truePeak', 'none'] as const;
export type Matching = (typeof MATCHINGS)[number];

/** What is known of a source over the whole track. */
export interface SourceLevel {
  /** LUFS */
  integratedLufs: number;
  /** dBTP */
  truePeakDbtp: number;
}

/**
 * Gains in dB, by the ids of the sources, that give all of them the same loudness or the same true peak. The quieter ones are
 * raised to the loudest, unless one of them would then pass full scale and clip on the way to the ear: then the louder ones
 * come down to the quietest. All 0 while the level of one is unknown or silence, and without matching.
 */
export function matchGains(levels: Readonly<Record<string, SourceLevel>>, matching: Matching): Record<string, number> {
  const sources = Object.entries(levels);
  const level = ({ integratedLufs, truePeakDbtp }: SourceLevel) =>
    matching === 'loudness' ? integratedLufs : truePeakDbtp;
  const all = sources.map(([, source]) => level(source));
  if (matching === 'none' || !all.every(Number.isFinite)) return Object.fromEntries(sources.map(([id]) => [id, 0]));
  const loudest = Math.max(...all);
  const clips = sources.some(
    ([, source]) => level(source) < loudest && source.truePeakDbtp + loudest - level(source) > 0,
  );
  const target = clips ? Math.min(...all) : loudest;
  return Object.fromEntries(sources.map(([id, source]) => [id, target - level(source)]));
}
