import type { Metadata, Viewport } from 'next';
import type { ReactNode } from 'react';

export const metadata: Metadata = {
  title: { default: 'Copper Lane', template: '%s · Copper Lane' },
  description: 'From a finished mix to a master that proves its spec.',
};

/** Whoever listens on a phone may zoom; the page reaches under the rounded corners. */
export const viewport: Viewport = { width: 'device-width', initialScale: 1, viewportFit: 'cover' };

/** Every page asks who is looking; none can be made at build time. */
export const dynamic = 'force-dynamic';

/** What all pages share: next to nothing, so that the listening page stays light. */
export default function RootLayout({ children }: { children: ReactNode }) {
  return (
    <html lang="en" suppressHydrationWarning>
      <body>{children}</body>
    </html>
  );
}
