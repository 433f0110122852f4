'use client';

import { useEffect, useRef, type ReactNode } from 'react';
import styles from './listening.module.css';

/** A sheet that comes up from below, where the thumb is. */
export function Sheet({ title, onClose, children }: { title: string; onClose: () => void; children: ReactNode }) {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => dialog.current?.showModal(), []);
  return (
    <dialog
      ref={dialog}
      className={styles.sheet}
      aria-labelledby="sheet-title"
      onClose={onClose}
      // A press beside the sheet closes it.
      onClick={({ target }) => target === dialog.current && dialog.current.close()}
    >
      <div>
        <h2 id="sheet-title">{title}</h2>
        {children}
      </div>
    </dialog>
  );
}
