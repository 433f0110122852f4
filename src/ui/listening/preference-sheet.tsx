'use client';

import { useEffect, useState } from 'react';
import { sentenceOf } from '../../core/sentence-of';
import type { HeardTrack, PreferenceTest } from '../../contracts/listening';
import { ask } from './ask';
import { Icon } from './icons';
import styles from './listening.module.css';
import { Sheet } from './sheet';
import { pathOf, playableCodec } from './streams';
import { SyncedAudio, type AudioState } from './synced-audio';

const LETTERS = ['A', 'B'] as const;
/** Length of what is repeated, in seconds: short enough to keep in mind. */
const PASSAGE_SECONDS = 15;

/** Where the loudest passage of a track starts, in seconds of what is streamed. */
function loudestPassage({ outline, startSeconds, endSeconds }: HeardTrack): number {
  const length = endSeconds - startSeconds;
  const wide = Math.max(1, Math.min(outline.length, Math.round((PASSAGE_SECONDS / length) * outline.length)));
  let [best, most] = [0, -1];
  for (let i = 0; i + wide <= outline.length; i++) {
    const sum = outline.slice(i, i + wide).reduce((all, level) => all + level * level, 0);
    if (sum > most) [best, most] = [i, sum];
  }
  return startSeconds + (best / outline.length) * length;
}

/** One trial: both letters to hear, and the question. */
function Trial({
  token,
  track,
  test,
  onAnswer,
}: {
  token: string;
  track: HeardTrack;
  test: PreferenceTest & { testId: string };
  onAnswer: (letter: 'A' | 'B') => void;
}) {
  const from = loudestPassage(track);
  const to = Math.min(track.endSeconds, from + PASSAGE_SECONDS);
  const [state, setState] = useState<AudioState | null>(null);
  const [audio, setAudio] = useState<SyncedAudio | null>(null);
  const [heardBoth, setHeardBoth] = useState(false);
  const { testId, answered, trials } = test;
  useEffect(() => {
    const codec = playableCodec();
    const url = (letter: string) =>
      `${pathOf(token)}/preference/${testId}/audio?trial=${answered}&letter=${letter}&codec=${codec}`;
    const player = new SyncedAudio(url, 'A', from, setState);
    setAudio(player);
    setState(player.state);
    setHeardBoth(false);
    player.prepare(LETTERS);
    return () => player.close();
  }, [token, testId, answered, from]);
  const seconds = state?.seconds ?? from;
  useEffect(() => {
    if (audio && seconds >= to) audio.seek(from);
  }, [audio, seconds, from, to]);
  const second = state?.heard === 'B';
  useEffect(() => {
    if (second) setHeardBoth(true);
  }, [second]);
  const hear = (letter: 'A' | 'B') => {
    if (!audio) return;
    audio.hear(letter);
    if (!audio.state.playing) audio.play();
  };
  return (
    <>
      <p>
        Trial {answered + 1} of {trials}. The same {Math.round(to - from)} seconds twice, at equal loudness. Switch as
        often as you like.
      </p>
      <div className={styles.switch} role="group" aria-label="Listen to">
        {LETTERS.map((letter) => (
          <button
            key={letter}
            type="button"
            aria-pressed={state?.playing === true && state.heard === letter}
            onClick={() => hear(letter)}
          >
            {letter}
          </button>
        ))}
      </div>
      {state?.playing && (
        <button type="button" onClick={() => audio?.pause()}>
          <Icon name="pause" size={20} /> Pause
        </button>
      )}
      <p>Which do you like better?</p>
      <div className={styles.buttons}>
        {LETTERS.map((letter) => (
          <button
            key={letter}
            type="button"
            className={styles.primary}
            disabled={!heardBoth}
            onClick={() => onAnswer(letter)}
          >
            {letter} is better
          </button>
        ))}
      </div>
    </>
  );
}

/** The blind test that the engineer has set up. */
export function PreferenceSheet({
  token,
  track,
  initial,
  author,
  onClose,
}: {
  token: string;
  track: HeardTrack;
  initial: PreferenceTest;
  author: string;
  onClose: () => void;
}) {
  const [test, setTest] = useState(initial);
  const [problem, setProblem] = useState<string | null>(null);
  const path = `${pathOf(token)}/preference`;
  const then = (asked: Promise<PreferenceTest>) =>
    void asked
      .then((next) => (setProblem(null), setTest(next)))
      .catch((caught: Error) => setProblem(sentenceOf(caught)));
  const { testId, result, answered } = test;
  return (
    <Sheet title={`Blind test: ${track.title}`} onClose={onClose}>
      {problem && <p role="alert">{problem}</p>}
      {result && (
        <>
          <p>Thank you. {result}</p>
          <p>The engineer sees this too.</p>
        </>
      )}
      {testId && !result && (
        <Trial
          {...{ token, track }}
          test={{ ...test, testId }}
          onAnswer={(letter) => then(ask(`${path}/${testId}/answers`, 'POST', { trial: answered, letter }))}
        />
      )}
      {!testId && (
        <p>
          You hear a passage as A and as B, {test.trials} times, and say which you like better. Nobody knows which is
          which before the end, so looks and names can’t sway you.
        </p>
      )}
      <div className={styles.buttons}>
        <button type="button" onClick={onClose}>
          Close
        </button>
        {(!testId || result) && (
          <button type="button" className={styles.primary} onClick={() => then(ask(path, 'POST', { author }))}>
            {result ? 'Take it again' : 'Start'}
          </button>
        )}
      </div>
    </Sheet>
  );
}
