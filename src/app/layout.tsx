import '@fontsource-variable/instrument-sans';
import '@fontsource-variable/spline-sans-mono';
import { AppRouterCacheProvider } from '@mui/material-nextjs/v16-appRouter';
import InitColorSchemeScript from '@mui/material/InitColorSchemeScript';
import type { Metadata } from 'next';
import { headers } from 'next/headers';
import type { ReactNode } from 'react';
import { Providers } from '@/ui/theme/providers';

export const metadata: Metadata = {
  title: { default: 'Copper Lane', template: '%s · Copper Lane' },
  description: 'From a finished mix to a master that proves its spec.',
};

/** Every page asks who is signed in; none can be made at build time. */
export const dynamic = 'force-dynamic';

export default async function RootLayout({ children }: { children: ReactNode }) {
  const nonce = (await headers()).get('x-nonce') ?? undefined;
  return (
    <html lang="en" suppressHydrationWarning>
      <body>
        <InitColorSchemeScript
          attribute="data-theme"
          defaultMode="light"
          modeStorageKey="copper-lane-theme"
          nonce={nonce}
        />
        <AppRouterCacheProvider options={{ enableCssLayer: true, nonce }}>
          <Providers>{children}</Providers>
        </AppRouterCacheProvider>
      </body>
    </html>
  );
}
