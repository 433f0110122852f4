'use client';

import { useCallback, useEffect, useMemo, useState } from 'react';
import { sentenceOf } from '../../core/sentence-of';
import type { HeardSource, ListeningPage } from '../../contracts/listening';
import { Mark } from '../kit/mark';
import { sendWaitingProposals } from '../handles/proposal-outbox';
import { useKept, useOffline } from '../offline/use-offline';
import { ask } from './ask';
import { clock } from './clock';
import { Icon } from './icons';
import styles from './listening.module.css';
import { NoteSheet } from './note-sheet';
import { PreferenceSheet } from './preference-sheet';
import { approvedWith, sendAnswer, sendWaiting, waitingAnswers, type Answer } from './outbox';
import { keptUrls, pathOf, sourceTitle } from './streams';
import { TrackList } from './track-list';
import { TrackOutline } from './track-outline';
import { usePlayer } from './use-player';

/** How often a page asks whether there is something to hear yet, in ms. */
const ASK_MS = 3000;

/** The page of a client: what is heard, mix against master at equal loudness, notes and approval. */
export function ListeningView({ token, page: initial }: { token: string; page: ListeningPage }) {
  const [page, setPage] = useState(initial);
  const [problem, setProblem] = useState<string | null>(null);
  const [noteAt, setNoteAt] = useState<{ trackId: string; title: string; seconds: number } | null>(null);
  const [testing, setTesting] = useState(false);
  const [waiting, setWaiting] = useState<Answer[]>([]);
  const player = usePlayer(token, page);
  const offline = useOffline();
  const urls = useMemo(() => keptUrls(token, page), [token, page]);
  const kept = useKept({ token, urls }, player.state.playing);
  const { state, index, author } = player;
  const path = pathOf(token);
  const refresh = useCallback(
    () =>
      ask<ListeningPage>(path)
        .then(setPage)
        .catch((caught: Error) => setProblem(sentenceOf(caught))),
    [path],
  );
  const ready = page.tracks.length > 0;

  useEffect(() => {
    // Once for each time the page is opened in a browser: what previews links runs no scripts.
    void ask(`${path}/visits`, 'POST').catch(() => {});
  }, [path]);
  useEffect(() => {
    // What was written without a connection goes out as soon as there is one.
    if (offline) return;
    void sendWaiting(token).then(() => {
      setWaiting(waitingAnswers(token));
      return refresh();
    });
    sendWaitingProposals().catch((caught: Error) => setProblem(sentenceOf(caught)));
  }, [offline, token, refresh]);
  useEffect(() => {
    if (ready) return;
    const timer = window.setInterval(() => void refresh(), ASK_MS);
    return () => window.clearInterval(timer);
  }, [ready, refresh]);

  const tell = (asked: Promise<unknown>) =>
    asked
      .then(() => setProblem(null))
      .catch((caught: Error) => setProblem(sentenceOf(caught)))
      .then(refresh);
  const saveNote = async (text: string) => {
    if (!noteAt) return;
    const { trackId, seconds } = noteAt;
    await sendAnswer(token, { trackId, seconds, text, author });
    setWaiting(waitingAnswers(token));
    if (navigator.onLine) await refresh();
  };
  const approve = (trackIds: string[], approved: boolean) =>
    void sendAnswer(token, { trackIds, approved, author })
      .then(() => setProblem(null))
      .catch((caught: Error) => setProblem(sentenceOf(caught)))
      .then(() => setWaiting(waitingAnswers(token)))
      .then(() => (navigator.onLine ? refresh() : undefined));
  const shown = { ...page, approved: approvedWith(page.approved, waiting) };

  const track = page.tracks.at(index);
  const within = track ? Math.max(0, state.seconds - track.startSeconds) : 0;
  const heard = state.heard as HeardSource;
  const fullScale = Math.max(1, ...page.tracks.flatMap(({ outline }) => outline));
  const openNote = () => {
    if (!track) return;
    setNoteAt({ trackId: track.id, title: track.title, seconds: Math.round(within * 10) / 10 });
  };
  /** Which of two versions is heard; of a single one the name says nothing to a client. */
  const versionOf = (source: HeardSource) =>
    !track?.other || source === 'mix' ? null : source === 'master' ? track.version : track.other;

  return (
    <div className={styles.page}>
      <main>
        <header>
          <p className={styles.from}>
            {page.engineer}
            {page.studio && <span>, {page.studio}</span>}
          </p>
          <h1>{page.release}</h1>
          {page.artist && <p className={styles.quiet}>{page.artist}</p>}
        </header>

        {!ready && (
          <p role="status" className={styles.card}>
            The tracks are being prepared for you{page.progress > 0 && `: ${Math.round(100 * page.progress)} %`}. This
            page opens them by itself.
          </p>
        )}
        {problem && (
          <p role="alert" className={styles.card}>
            {problem}
          </p>
        )}
        {offline && (
          <p role="status" className={styles.card}>
            You are offline. {kept ? 'What you hear is kept on this device.' : 'What was loaded can be heard.'}
          </p>
        )}
        {waiting.length > 0 && (
          <p role="status" className={styles.card}>
            {waiting.length === 1 ? 'One answer waits' : `${waiting.length} answers wait`} on this device and{' '}
            {waiting.length === 1 ? 'is' : 'are'} sent when you are connected.
          </p>
        )}
        {state.broken && !offline && (
          <p role="alert" className={styles.card}>
            The stream broke off. Playing goes on when the connection is back.{' '}
            <button type="button" onClick={() => player.reload()}>
              Try now
            </button>
          </p>
        )}

        {track && (
          <>
            <section aria-label="Now playing" className={styles.now}>
              <h2>{track.title}</h2>
              <TrackOutline
                track={track}
                seconds={within}
                copper={heard === 'mix'}
                fullScale={fullScale}
                notes={page.notes.filter(({ trackId }) => trackId === track.id).map(({ seconds }) => seconds)}
                onSeek={(seconds) => player.seek(track.startSeconds + seconds)}
              />
              <div className={styles.times}>
                <span>{clock(within)}</span>
                <span>
                  {state.waiting && state.playing
                    ? 'Loading…'
                    : versionOf(heard)
                      ? `Version “${versionOf(heard)}”`
                      : ''}
                </span>
                <span>{clock(track.endSeconds - track.startSeconds)}</span>
              </div>
            </section>

            <TrackList
              {...{ page: shown, index }}
              onPlay={(i) => {
                player.seek(page.tracks[i].startSeconds);
                player.play();
              }}
              onApprove={approve}
              onNote={({ trackId, seconds }) => {
                const at = page.tracks.find(({ id }) => id === trackId);
                if (at) player.seek(at.startSeconds + seconds);
              }}
              onRemoveNote={(id) => void tell(ask(`${path}/notes/${id}`, 'DELETE'))}
            />

            <section aria-label="More" className={styles.more}>
              {page.lossless && (
                <label className={styles.option}>
                  <input
                    type="checkbox"
                    checked={player.lossless}
                    onChange={({ target }) => player.setLossless(target.checked)}
                  />
                  Lossless master (about 10 MB a minute)
                </label>
              )}
              {page.handles && (
                <a href={`/listen/${encodeURIComponent(token)}/handles/${track.id}`}>
                  Change the sound of “{track.title}”…
                </a>
              )}
              {page.preference && (
                <button type="button" onClick={() => (player.pause(), setTesting(true))}>
                  Blind test: which do you like better?
                </button>
              )}
              {page.download && (
                <details>
                  <summary>Save the masters</summary>
                  <p className={styles.quiet}>
                    FLAC, 48 kHz, 24-bit: for listening. Files for release come separately.
                  </p>
                  {page.tracks.map(({ id, title }) => (
                    <a key={id} href={`${path}/tracks/${id}/file`} download>
                      {title}
                    </a>
                  ))}
                </details>
              )}
            </section>
          </>
        )}
        <footer>
          <Mark width={34} /> Copper Lane{kept && '. Kept on this device: it plays without a connection.'}
        </footer>
      </main>

      {track && (
        <div className={styles.bar} role="region" aria-label="Player">
          <p className={styles.quiet} id="equal">
            Compare at equal loudness
          </p>
          <div className={styles.switch} role="group" aria-labelledby="equal">
            {page.sources.map((source) => (
              <button
                key={source}
                type="button"
                data-source={source}
                aria-pressed={heard === source}
                aria-busy={state.coming === source}
                onClick={() => player.hear(source)}
              >
                {sourceTitle(source)}
              </button>
            ))}
          </div>
          <div className={styles.transport}>
            <button type="button" aria-label="Previous track" onClick={() => player.go(-1)}>
              <Icon name="previous" />
            </button>
            <button
              type="button"
              className={styles.play}
              aria-label={state.playing ? 'Pause' : 'Play'}
              onClick={() => (state.playing ? player.pause() : player.play())}
            >
              <Icon name={state.playing ? 'pause' : 'play'} size={36} />
            </button>
            <button type="button" aria-label="Next track" onClick={() => player.go(1)}>
              <Icon name="next" />
            </button>
            <button type="button" aria-label={`Write a note at ${clock(within)}`} onClick={openNote}>
              <Icon name="note" />
              <span>Note</span>
            </button>
          </div>
        </div>
      )}
      {noteAt && (
        <NoteSheet
          title={`${noteAt.title}, ${clock(noteAt.seconds)}`}
          author={author}
          onAuthor={player.setAuthor}
          onSave={saveNote}
          onClose={() => setNoteAt(null)}
        />
      )}
      {testing && page.preference && (
        <PreferenceSheet
          {...{ token, author }}
          track={page.tracks.find(({ id }) => id === page.preference?.trackId) ?? page.tracks[0]}
          initial={page.preference}
          onClose={() => {
            setTesting(false);
            void refresh();
          }}
        />
      )}
    </div>
  );
}
