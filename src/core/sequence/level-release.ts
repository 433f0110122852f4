/** What the tracks of a release are brought to. */
export type Levelling =
  /** Every track as loud as one of them. */
  | { by: 'anchor'; trackId: string }
  /** All by the same, so that the album has a loudness. */
  | { by: 'album'; lufs: number }
  /** All by the same, so that the loudest track has a loudness (AES TD1008: −14 LUFS). */
  | { by: 'loudest'; lufs: number };

/** A master as it is levelled; LUFS, −∞ for silence. */
export interface LevelledTrack {
  id: string;
  integratedLufs: number;
}

/** To a tenth of a dB, as levels are set. */
const tenth = (db: number) => Math.round(db * 10) / 10 + 0;

/**
 * Trims in dB, by track. Silent tracks are left alone; `albumLufs` is the loudness of all of them together.
 */
export function proposeTrims(
  tracks: readonly LevelledTrack[],
  albumLufs: number,
  levelling: Levelling,
): Map<string, number> {
  const heard = tracks.filter(({ integratedLufs }) => Number.isFinite(integratedLufs));
  if (levelling.by === 'anchor') {
    const anchor = heard.find(({ id }) => id === levelling.trackId);
    if (!anchor) return new Map();
    return new Map(heard.map(({ id, integratedLufs }) => [id, tenth(anchor.integratedLufs - integratedLufs)]));
  }
  const now = levelling.by === 'album' ? albumLufs : Math.max(...heard.map(({ integratedLufs }) => integratedLufs));
  if (!Number.isFinite(now)) return new Map();
  const trim = tenth(levelling.lufs - now);
  return new Map(heard.map(({ id }) => [id, trim]));
}
