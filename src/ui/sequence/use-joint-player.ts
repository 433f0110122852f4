'use client';

import { useEffect, useRef, useState } from 'react';
import { sentenceOf } from '../../core/sentence-of';

interface Heard {
  context: AudioContext;
  source: AudioBufferSourceNode | null;
  abort: AbortController;
}

/** The server's sentence where a joint can't be had. */
async function fetchJoint(releaseId: string, trackId: string, signal: AbortSignal): Promise<ArrayBuffer> {
  const response = await fetch(`/api/releases/${releaseId}/joints/${trackId}`, { signal });
  if (response.ok) return response.arrayBuffer();
  const { error } = (await response.json().catch(() => ({}))) as { error?: string };
  throw new Error(error ?? 'The joint could not be rendered. Try again in a moment.');
}

/** Plays joints one after the other, each as it was rendered; the next one is fetched meanwhile. */
export function useJointPlayer(releaseId: string) {
  const [playing, setPlaying] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const heard = useRef<Heard | null>(null);

  const stop = () => {
    heard.current?.abort.abort();
    heard.current?.source?.stop();
    void heard.current?.context.close();
    heard.current = null;
    setPlaying(null);
  };
  useEffect(() => () => stop(), []);

  const play = async (trackIds: readonly string[]) => {
    stop();
    setProblem(null);
    const now: Heard = { context: new AudioContext(), source: null, abort: new AbortController() };
    heard.current = now;
    const { context, abort } = now;
    const get = (id: string | undefined) =>
      id === undefined ? null : fetchJoint(releaseId, id, abort.signal).then((bytes) => context.decodeAudioData(bytes));
    try {
      let next = get(trackIds[0]);
      for (const [i, id] of trackIds.entries()) {
        setPlaying(id);
        const buffer = await next;
        next = get(trackIds.at(i + 1));
        // Its failure is told when its turn comes.
        next?.catch(() => {});
        if (!buffer || heard.current !== now) return;
        const source = new AudioBufferSourceNode(context, { buffer });
        source.connect(context.destination);
        now.source = source;
        const ended = new Promise((resolve) => source.addEventListener('ended', resolve));
        source.start();
        await ended;
        if (heard.current !== now) return;
      }
      stop();
    } catch (error) {
      if (heard.current !== now) return;
      stop();
      setProblem(sentenceOf(error));
    }
  };
  return { playing, problem, play, stop };
}
