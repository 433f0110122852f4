import type { HeardTrack } from '../../contracts/listening';
import { clock } from './clock';
import styles from './listening.module.css';

const HEIGHT = 100;
const MIDDLE = HEIGHT / 2;

/** The outline of a track to scrub on: what was played stands out; `copper` where the mix is heard. */
export function TrackOutline({
  track,
  seconds,
  copper,
  notes,
  fullScale,
  onSeek,
}: {
  track: HeardTrack;
  /** Seconds into the track. */
  seconds: number;
  copper: boolean;
  /** Seconds of notes in the track. */
  notes: readonly number[];
  /** Level that takes the whole height: the loudest of all tracks, so that they keep their proportions. */
  fullScale: number;
  onSeek: (seconds: number) => void;
}) {
  const length = track.endSeconds - track.startSeconds;
  const columns = track.outline.length;
  const played = Math.min(columns, Math.max(0, (seconds / length) * columns));
  const half = track.outline.map((level) => Math.max(1, (MIDDLE * level) / fullScale));
  const above = half.map((height, i) => `L${i + 0.5} ${MIDDLE - height}`).join('');
  const below = half.map((height, i) => `L${i + 0.5} ${MIDDLE + height}`).reverse();
  const shape = `M0 ${MIDDLE}${above}L${columns} ${MIDDLE}${below.join('')}Z`;
  return (
    <div className={styles.outline} data-copper={copper}>
      <svg viewBox={`0 0 ${columns} ${HEIGHT}`} preserveAspectRatio="none" aria-hidden>
        <clipPath id="played">
          <rect width={played} height={HEIGHT} />
        </clipPath>
        <path className={styles.toCome} d={shape} />
        <path className={styles.played} d={shape} clipPath="url(#played)" />
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
