'use client';

import { useEffect, useRef, useState, type CSSProperties } from 'react';
import { sentenceOf } from '../../core/sentence-of';
import type { HandlesPage } from '../../contracts/proposal';
import { changesOf, positionsOf } from '../../core/house/proposal';
import { REST_PERCENT } from '../../core/house/schema';
import { clock } from '../listening/clock';
import { Icon } from '../listening/icons';
import styles from '../listening/listening.module.css';
import { useNoServiceWorker, useOffline } from '../offline/use-offline';
import { HandlesPlayer, type HandlesSource, type HandlesState } from './handles-player';
import own from './handles.module.css';
import { sendProposal, sendWaitingProposal, waitingProposal } from './proposal-outbox';

const SOURCES: readonly { source: HandlesSource; title: string }[] = [
  { source: 'mix', title: 'Mix' },
  { source: 'version', title: 'Before' },
  { source: 'proposal', title: 'Yours' },
];

const AMOUNT = { most: 150, rest: 100 };

/** One handle, wide enough for a thumb in a car. */
function Handle({
  name,
  percent,
  most,
  rest,
  onPercent,
}: {
  name: string;
  percent: number;
  most: number;
  rest: number;
  onPercent: (percent: number) => void;
}) {
  const reading = percent === rest ? 'as it is' : `${percent > rest ? '+' : '−'}${Math.abs(percent - rest)}`;
  return (
    <label className={own.handle}>
      <span>{name}</span>
      <span className={own.reading}>{reading}</span>
      <input
        type="range"
        className={own.travel}
        style={{ '--rest': rest / most } as CSSProperties}
        aria-label={name}
        aria-valuetext={reading}
        min={0}
        max={most}
        step={1}
        value={percent}
        onChange={({ target }) => {
          const value = Number(target.value);
          // Near the middle it rests, so that a thumb finds the way back.
          onPercent(Math.abs(value - rest) <= 2 ? rest : value);
        }}
      />
    </label>
  );
}

/** The handles of a version on a phone, heard live; what is changed is sent as a proposal. */
export function HandlesView({
  page,
  audioPath,
  impulsesPath,
  sendPath,
  back,
}: {
  page: HandlesPage;
  /** Addresses of the mix and its impulse responses, of where proposals go, and of the page that one came from. */
  audioPath: string;
  impulsesPath: string;
  sendPath: string;
  back: string;
}) {
  const [positions, setPositions] = useState(() => positionsOf(page.lane));
  const [state, setState] = useState<HandlesState | null>(null);
  const [author, setAuthor] = useState(page.author);
  const [told, setTold] = useState<string | null>(null);
  const [waiting, setWaiting] = useState(false);
  /** The positions that are on their way or there already. */
  const [sent, setSent] = useState<typeof positions | null>(null);
  const player = useRef<HandlesPlayer | null>(null);
  const offline = useOffline();
  useNoServiceWorker();

  useEffect(() => {
    const made = new HandlesPlayer(page, { audio: audioPath, impulses: impulsesPath }, setState);
    player.current = made;
    void made.open();
    return () => made.close();
  }, [page, audioPath, impulsesPath]);
  useEffect(() => {
    setWaiting(waitingProposal(sendPath) !== null);
    if (offline) return;
    void sendWaitingProposal(sendPath)
      .then((gone) => setWaiting(!gone))
      .catch((caught: Error) => (setWaiting(false), setTold(sentenceOf(caught))));
  }, [offline, sendPath]);

  const change = (next: typeof positions) => {
    setPositions(next);
    setTold(null);
    player.current?.move(next);
  };
  const moved = changesOf(page.lane, positions).length > 0;
  const send = () => {
    setSent(positions);
    void sendProposal(sendPath, {
      ...{ versionId: page.versionId, step: page.step, positions, author, madeAt: new Date().toISOString() },
    })
      .then((arrived) => {
        setWaiting(!arrived);
        setTold(arrived ? 'Sent. The workspace shows it beside the version, to be heard and taken or refused.' : null);
      })
      .catch((caught: Error) => (setSent(null), setTold(sentenceOf(caught))));
  };
  const { arrived = 0, playing = false, seconds = 0, source = 'proposal', problem = null } = state ?? {};
  const length = page.mix.frames / page.mix.sampleRate;
  return (
    <div className={styles.page}>
      <main>
        <header>
          <p>
            <a href={back} className={own.back}>
              {page.release}
            </a>
          </p>
          <h1>{page.title}</h1>
          <p className={styles.quiet}>Version “{page.version}”</p>
        </header>
        {problem && (
          <p role="alert" className={styles.card}>
            {problem}
          </p>
        )}
        {offline && (
          <p role="status" className={styles.card}>
            You are offline. What you hear is on this device; a proposal is sent when you are connected.
          </p>
        )}
        {waiting && (
          <p role="status" className={styles.card}>
            A proposal waits on this device and is sent when you are connected.
          </p>
        )}
        <section aria-label="Handles" className={own.handles}>
          {Object.entries(positions.handles).map(([name, percent]) => (
            <Handle
              key={name}
              {...{ name, percent }}
              most={100}
              rest={REST_PERCENT}
              onPercent={(to) => change({ ...positions, handles: { ...positions.handles, [name]: to } })}
            />
          ))}
          {(page.lane.house?.scales.length ?? 0) > 0 && (
            <Handle
              name="Amount"
              percent={positions.amountPercent}
              {...AMOUNT}
              onPercent={(amountPercent) => change({ ...positions, amountPercent })}
            />
          )}
        </section>
        <section aria-label="Proposal" className={styles.form}>
          <p className={styles.quiet}>
            {moved
              ? 'Nothing changes until your proposal is taken.'
              : 'Move a handle while it plays: you hear it at once.'}
          </p>
          <label>
            Your name
            <input maxLength={60} value={author} onChange={({ target }) => setAuthor(target.value)} />
          </label>
          {told && <p role="status">{told}</p>}
          <div className={styles.buttons}>
            <button type="button" disabled={!moved} onClick={() => change(positionsOf(page.lane))}>
              Reset
            </button>
            <button
              type="button"
              className={styles.primary}
              disabled={!moved || positions === sent || author.trim() === ''}
              onClick={send}
            >
              Send as a proposal
            </button>
          </div>
        </section>
      </main>
      <div className={`${styles.bar} ${own.player}`} role="region" aria-label="Player">
        {arrived < 1 ? (
          <p role="status" className={styles.quiet}>
            Loading the mix, {Math.round(100 * arrived)} %
          </p>
        ) : (
          <input
            type="range"
            className={own.place}
            aria-label="Place in the track"
            aria-valuetext={`${clock(seconds)} of ${clock(length)}`}
            min={0}
            max={length}
            step={0.1}
            value={seconds}
            onChange={({ target }) => player.current?.seek(Number(target.value))}
          />
        )}
        <div className={styles.switch} role="group" aria-label="Listen to">
          {SOURCES.map(({ source: each, title }) => (
            <button
              key={each}
              type="button"
              data-source={each === 'mix' ? 'mix' : 'master'}
              aria-pressed={source === each}
              onClick={() => player.current?.hear(each)}
            >
              {title}
            </button>
          ))}
        </div>
        <button
          type="button"
          className={own.play}
          disabled={arrived < 1}
          aria-label={playing ? 'Pause' : 'Play'}
          onClick={() => player.current?.toggle()}
        >
          <Icon name={playing ? 'pause' : 'play'} size={36} />
        </button>
      </div>
    </div>
  );
}
