import type { ReactNode } from 'react';
import { PaletteStyle } from '../theme/palette-style';
import { Mark } from './mark';

/** Within the page: a file of its own would be fetched ahead by every page, since each can lead nowhere, and be used by none. */
const STYLE = `
.plain-page {
  box-sizing: border-box;
  min-height: 100vh;
  margin: -8px;
  padding: 96px 24px;
  display: grid;
  gap: 16px;
  align-content: start;
  justify-content: center;
  grid-template-columns: minmax(0, 480px);
  background: var(--paper);
  color: var(--ink);
  font: 16px/1.45 'Instrument Sans Variable', system-ui, sans-serif;
}
.plain-page h1 { margin: 0; font-size: 26px; letter-spacing: -0.01em; }
.plain-page p { margin: 0; }
.plain-page a { color: var(--patina); font-weight: 650; }
`;

/** A page that only says something, without the component library: for whoever has no account. */
export function PlainPage({ title, children }: { title: string; children: ReactNode }) {
  return (
    <main className="plain-page">
      <PaletteStyle />
      <style>{STYLE}</style>
      <Mark />
      <h1>{title}</h1>
      {children}
    </main>
  );
}
