'use client';

import { useEffect, useState } from 'react';
import { sentenceOf } from '../../core/sentence-of';
import { heardPassage } from '../../contracts/heard-passage';
import type { HeardTrack, PreferenceTest } from '../../contracts/listening';
import { ask, askBytes } from './ask';
import { Icon } from './icons';
import styles from './listening.module.css';
import { Sheet } from './sheet';
import { pathOf, playableCodec } from './streams';
import { SyncedAudio, type AudioState } from './synced-audio';

const LETTERS = ['A', 'B'] as const;
/** The passage starts again this long before its end, in seconds: an element that reaches the end stops. */
const LOOP_MARGIN = 0.6;

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
  const { from, to } = heardPassage(track);
  const [state, setState] = useState<AudioState | null>(null);
  const [audio, setAudio] = useState<SyncedAudio | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [heard, setHeard] = useState<ReadonlySet<string>>(new Set());
  const { testId, answered, trials } = test;
  useEffect(() => {
    const left = new AbortController();
    let player: SyncedAudio | undefined;
    const urls: string[] = [];
    setState(null);
    setHeard(new Set());
    setProblem(null);
    const fetchLetter = (letter: string) =>
      askBytes(
        `${pathOf(token)}/preference/${testId}/audio?trial=${answered}&letter=${letter}&codec=${playableCodec()}`,
        left.signal,
      );
    void Promise.all(LETTERS.map(fetchLetter))
      .then(([a, b]) => {
        urls.push(URL.createObjectURL(a), URL.createObjectURL(b));
        player = new SyncedAudio((letter) => urls[letter === 'A' ? 0 : 1], 'A', 0, setState);
        setAudio(player);
        setState(player.state);
        player.prepare(LETTERS);
      })
      .catch((caught: Error) => !left.signal.aborted && setProblem(sentenceOf(caught)));
    return () => {
      left.abort();
      player?.close();
      urls.forEach((url) => URL.revokeObjectURL(url));
    };
  }, [token, testId, answered]);
  // A letter counts as heard once it has sounded for a moment.
  const sounding = state?.playing && !state.waiting && state.seconds > 0.2 ? state.heard : null;
  useEffect(() => {
    if (sounding !== null) setHeard((before) => new Set([...before, sounding]));
  }, [sounding]);
  const unheard = LETTERS.filter((letter) => !heard.has(letter));
  const ended = state !== null && state.seconds >= to - from - LOOP_MARGIN;
  useEffect(() => {
    if (audio && ended) audio.seek(0);
  }, [audio, ended]);
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
      {problem && <p role="alert">{problem}</p>}
      <div className={styles.switch} role="group" aria-label="Listen to">
        {LETTERS.map((letter) => (
          <button
            key={letter}
            type="button"
            disabled={state === null}
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
      <p role="status">
        {unheard.length > 0 ? `Listen to ${unheard.join(' and ')} first.` : 'Which do you like better?'}
      </p>
      <div className={styles.buttons}>
        {LETTERS.map((letter) => (
          <button
            key={letter}
            type="button"
            className={styles.primary}
            disabled={unheard.length > 0}
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
