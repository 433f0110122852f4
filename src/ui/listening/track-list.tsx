import type { ListenerNote, ListeningPage } from '../../contracts/listening';
import { clock } from './clock';
import { Icon } from './icons';
import styles from './listening.module.css';

/** The tracks with their notes, and what was approved. */
export function TrackList({
  page: { tracks, notes, approved },
  index,
  onPlay,
  onApprove,
  onNote,
  onRemoveNote,
}: {
  page: ListeningPage;
  /** The one that is playing. */
  index: number;
  onPlay: (index: number) => void;
  onApprove: (trackIds: string[], approved: boolean) => void;
  onNote: (note: ListenerNote) => void;
  onRemoveNote: (id: string) => void;
}) {
  const missing = tracks.filter(({ id }) => !approved.includes(id)).map(({ id }) => id);
  return (
    <section aria-label="Tracks" className={styles.tracks}>
      <ol>
        {tracks.map(({ id, title, startSeconds, endSeconds }, i) => (
          <li key={id} aria-current={i === index ? 'true' : undefined}>
            <div className={styles.row}>
              <button type="button" className={styles.title} onClick={() => onPlay(i)}>
                <span>{i + 1}</span> <b>{title}</b> <span>{clock(endSeconds - startSeconds)}</span>
              </button>
              <button
                type="button"
                className={styles.approve}
                aria-pressed={approved.includes(id)}
                aria-label={approved.includes(id) ? `Take back the approval of ${title}` : `Approve ${title}`}
                onClick={() => onApprove([id], !approved.includes(id))}
              >
                {approved.includes(id) ? (
                  <>
                    <Icon name="check" size={18} /> Approved
                  </>
                ) : (
                  'Approve'
                )}
              </button>
            </div>
            {notes
              .filter(({ trackId }) => trackId === id)
              .map((note) => (
                <div key={note.id} className={styles.note}>
                  <button type="button" onClick={() => onNote(note)} aria-label={`Go to ${clock(note.seconds)}`}>
                    {clock(note.seconds)}
                  </button>
                  <p>
                    {note.text} <span className={styles.quiet}>{note.author}</span>
                  </p>
                  <button type="button" aria-label={`Take back “${note.text}”`} onClick={() => onRemoveNote(note.id)}>
                    <Icon name="remove" size={16} />
                  </button>
                </div>
              ))}
          </li>
        ))}
      </ol>
      {tracks.length > 1 && missing.length > 0 && (
        <button type="button" onClick={() => onApprove(missing, true)}>
          Approve {missing.length === tracks.length ? 'the whole release' : 'the rest'}
        </button>
      )}
      {missing.length === 0 && (
        <p role="status" className={styles.quiet}>
          Everything here is approved. Thank you.
        </p>
      )}
    </section>
  );
}
