'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import type { HeardSource, HeardTrack, ListeningPage } from '../../contracts/listening';
import { keepPlace, recallPlace } from './remembered-place';
import { playableCodec, streamUrl } from './streams';
import { SyncedAudio, type AudioState } from './synced-audio';

/** How often the place is kept while playing, in seconds. */
const KEEP_EVERY = 2;
/** Going back within this starts the track again instead of the one before. */
const RESTART_AFTER = 3;

const STILL: AudioState = {
  ...{ playing: false, waiting: false, seconds: 0, heard: 'master', coming: null, broken: false },
};

/** The track at a place of what is streamed; the first where there is none before it. */
export function trackAt(tracks: readonly HeardTrack[], seconds: number): number {
  // A place that is set to a start may be told back a little before it.
  return Math.max(
    0,
    tracks.findLastIndex(({ startSeconds }) => startSeconds <= seconds + 0.02),
  );
}

/** Plays what a listening page streams, remembers where it was, and answers the buttons of phone and car. */
export function usePlayer(token: string, page: ListeningPage) {
  const [state, setState] = useState(STILL);
  const [lossless, setLossless] = useState(false);
  const withoutLoss = useRef(false);
  const [author, setAuthor] = useState(page.recipient);
  const audio = useRef<SyncedAudio | null>(null);
  const kept = useRef(0);
  const index = trackAt(page.tracks, state.seconds);
  const { id, edition } = page;

  useEffect(() => {
    if (edition === '') return;
    const before = recallPlace(id);
    if (before.author !== undefined) setAuthor(before.author);
    const end = page.tracks.at(-1)?.endSeconds ?? 0;
    const seconds = before.seconds !== undefined && before.seconds < end - 1 ? before.seconds : 0;
    const source = before.source && page.sources.includes(before.source) ? before.source : 'master';
    const codec = playableCodec();
    const player = new SyncedAudio(
      (name) => streamUrl(token, page, name as HeardSource, withoutLoss.current && name === 'master' ? 'flac' : codec),
      ...([source, seconds, setState] as const),
    );
    audio.current = player;
    setState(player.state);
    player.prepare();
    return () => player.close();
    // A page that was only asked again has the same streams.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [token, id, edition]);

  const keep = useCallback(() => {
    const { seconds, heard } = audio.current?.state ?? STILL;
    if (audio.current) keepPlace(id, { seconds, source: heard as HeardSource, author });
  }, [id, author]);
  useEffect(() => {
    if (Math.abs(state.seconds - kept.current) < KEEP_EVERY && state.playing) return;
    kept.current = state.seconds;
    keep();
  }, [state.seconds, state.playing, state.heard, keep]);

  const play = useCallback(() => audio.current?.play(), []);
  const pause = useCallback(() => audio.current?.pause(), []);
  const seek = useCallback((seconds: number) => audio.current?.seek(Math.max(0, seconds)), []);
  const go = useCallback(
    (by: -1 | 1) => {
      const { seconds } = audio.current?.state ?? STILL;
      const here = trackAt(page.tracks, seconds);
      const again = by < 0 && seconds - page.tracks[here].startSeconds > RESTART_AFTER;
      const track = page.tracks.at(again ? here : Math.min(page.tracks.length - 1, Math.max(0, here + by)));
      if (track) seek(track.startSeconds);
    },
    [page.tracks, seek],
  );

  useEffect(() => {
    if (!('mediaSession' in navigator)) return;
    const session = navigator.mediaSession;
    const track = page.tracks.at(index);
    if (track) session.metadata = new MediaMetadata({ title: track.title, artist: track.artist, album: page.release });
    session.setActionHandler('play', () => void play());
    session.setActionHandler('pause', () => pause());
    session.setActionHandler('previoustrack', () => go(-1));
    session.setActionHandler('nexttrack', () => go(1));
    session.setActionHandler('seekto', ({ seekTime }) => seekTime !== undefined && seek(seekTime));
  }, [page.tracks, page.release, index, play, pause, go, seek]);

  useEffect(() => {
    // Where the line was lost while playing, playing goes on when it is back.
    const back = () => audio.current?.state.broken && audio.current.reload();
    window.addEventListener('online', back);
    window.addEventListener('pagehide', keep);
    return () => {
      window.removeEventListener('online', back);
      window.removeEventListener('pagehide', keep);
    };
  }, [keep]);

  return {
    ...{ state, index, lossless, author, setAuthor, play, pause, seek, go },
    setLossless: (on: boolean) => {
      withoutLoss.current = on;
      setLossless(on);
      audio.current?.reload();
    },
    hear: (source: HeardSource) => audio.current?.hear(source),
    reload: () => audio.current?.reload(),
  };
}
export type Player = ReturnType<typeof usePlayer>;
