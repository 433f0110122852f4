import type { ReactNode } from 'react';
import { PaletteStyle } from '../theme/palette-style';
import { Mark } from './mark';
import styles from './plain-page.module.css';

/** A page that only says something, without the component library: for whoever has no account. */
export function PlainPage({ title, children }: { title: string; children: ReactNode }) {
  return (
    <main className={styles.page}>
      <PaletteStyle />
      <Mark />
      <h1>{title}</h1>
      {children}
    </main>
  );
}
