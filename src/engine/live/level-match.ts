/** Gains in dB that make mix and master equally loud. */
export interface LevelMatch {
  mixDb: number;
  masterDb: number;
}

/** What is known of one of the two. */
export interface Loudness {
  /** LUFS */
  integratedLufs: number;
  /** dBTP */
  truePeakDbtp: number;
}

/**
 * Raises the quieter of the two by the difference of their integrated loudness, unless its true peak would pass full
 * scale and clip on the way to the ear; then the louder one is lowered instead.
 */
export function levelMatch(mix: Loudness, master: Loudness): LevelMatch {
  const difference = master.integratedLufs - mix.integratedLufs;
  if (!Number.isFinite(difference)) return { mixDb: 0, masterDb: 0 };
  const quieter = difference > 0 ? mix : master;
  const amount = Math.abs(difference);
  const raise = quieter.truePeakDbtp + amount <= 0;
  if (difference > 0) return raise ? { mixDb: amount, masterDb: 0 } : { mixDb: 0, masterDb: -amount };
  return raise ? { mixDb: 0, masterDb: amount } : { mixDb: -amount, masterDb: 0 };
}
