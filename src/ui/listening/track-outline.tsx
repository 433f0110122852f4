import type { HeardTrack } from '../../contracts/listening';
import { clock } from './clock';
import styles from './listening.module.css';

const HEIGHT = 100;

/** The outline of a track to scrub on: what was played stands out; `copper` where the mix is heard. */
export function TrackOutline({
  track,
  seconds,
  copper,
  notes,
  onSeek,
}: {
  track: HeardTrack;
  /** Seconds into the track. */
  seconds: number;
  copper: boolean;
  /** Seconds of notes in the track. */
  notes: readonly number[];
  onSeek: (seconds: number) => void;
}) {
  const length = track.endSeconds - track.startSeconds;
  const columns = track.outline.length;
  const played = (seconds / length) * columns;
  const bars = track.outline.map((level, i) => {
    const height = Math.max(2, level);
    return `M${i + 0.15} ${(HEIGHT - height) / 2}h0.7v${height}h-0.7z`;
  });
  const cut = Math.min(columns, Math.max(0, Math.round(played)));
  return (
    <div className={styles.outline} data-copper={copper}>
      <svg viewBox={`0 0 ${columns} ${HEIGHT}`} preserveAspectRatio="none" aria-hidden>
        <path className={styles.toCome} d={bars.slice(cut).join('')} />
        <path className={styles.played} d={bars.slice(0, cut).join('')} />
      </svg>
      {notes.map((at, i) => (
        <span key={i} className={styles.flag} style={{ left: `${(100 * at) / length}%` }} />
      ))}
      <input
        type="range"
        aria-label={`Place in ${track.title}`}
        aria-valuetext={`${clock(seconds)} of ${clock(length)}`}
        min={0}
        max={length}
        step={0.1}
        value={Math.min(length, seconds)}
        onChange={({ target }) => onSeek(Number(target.value))}
      />
    </div>
  );
}
