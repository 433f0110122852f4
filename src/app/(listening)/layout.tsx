import '@fontsource-variable/instrument-sans';
import type { ReactNode } from 'react';
import { PaletteStyle } from '@/ui/theme/palette-style';

/** The pages of those who only listen: no component library, so that they open at once on a phone. */
export default function ListeningLayout({ children }: { children: ReactNode }) {
  return (
    <>
      <PaletteStyle />
      {children}
    </>
  );
}
