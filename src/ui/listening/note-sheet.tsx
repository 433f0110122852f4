'use client';

import { useState } from 'react';
import { sentenceOf } from '../../core/sentence-of';
import styles from './listening.module.css';
import { Sheet } from './sheet';

/** Writes a note at a moment. */
export function NoteSheet({
  title,
  author,
  onAuthor,
  onSave,
  onClose,
}: {
  title: string;
  author: string;
  onAuthor: (author: string) => void;
  /** Rejects with a sentence. */
  onSave: (text: string) => Promise<void>;
  onClose: () => void;
}) {
  const [text, setText] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const save = () =>
    void onSave(text)
      .then(onClose)
      .catch((caught: Error) => setProblem(sentenceOf(caught)));
  return (
    <Sheet title={title} onClose={onClose}>
      <form
        className={styles.form}
        onSubmit={(event) => {
          event.preventDefault();
          save();
        }}
      >
        <label>
          What do you hear?
          <textarea rows={3} maxLength={2000} autoFocus value={text} onChange={({ target }) => setText(target.value)} />
        </label>
        <label>
          Your name
          <input maxLength={60} value={author} onChange={({ target }) => onAuthor(target.value)} />
        </label>
        {problem && <p role="alert">{problem}</p>}
        <div className={styles.buttons}>
          <button type="button" onClick={onClose}>
            Cancel
          </button>
          <button type="submit" className={styles.primary} disabled={text.trim() === '' || author.trim() === ''}>
            Send the note
          </button>
        </div>
      </form>
    </Sheet>
  );
}
