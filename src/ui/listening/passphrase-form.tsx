'use client';

import { useState } from 'react';
import { sentenceOf } from '../../core/sentence-of';
import { PlainPage } from '../kit/plain-page';
import { ask } from './ask';
import styles from './listening.module.css';
import { pathOf } from './streams';

/** Asks for the passphrase of a link. */
export function PassphraseForm({ token }: { token: string }) {
  const [passphrase, setPassphrase] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const enter = async () => {
    try {
      await ask(`${pathOf(token)}/passphrase`, 'POST', { passphrase });
      window.location.reload();
    } catch (caught) {
      setProblem(sentenceOf(caught));
    }
  };
  return (
    <PlainPage title="This page is protected">
      <p>Enter the passphrase that came with the link.</p>
      <form
        className={styles.form}
        onSubmit={(event) => {
          event.preventDefault();
          void enter();
        }}
      >
        <label>
          Passphrase
          <input
            type="password"
            autoComplete="off"
            autoFocus
            value={passphrase}
            aria-invalid={problem !== null}
            onChange={({ target }) => setPassphrase(target.value)}
          />
        </label>
        {problem && <p role="alert">{problem}</p>}
        <button type="submit" className={styles.primary} disabled={passphrase === ''}>
          Open
        </button>
      </form>
    </PlainPage>
  );
}
