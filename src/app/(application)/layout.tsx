import '@fontsource-variable/instrument-sans';
import '@fontsource-variable/spline-sans-mono';
import { AppRouterCacheProvider } from '@mui/material-nextjs/v16-appRouter';
import InitColorSchemeScript from '@mui/material/InitColorSchemeScript';
import { headers } from 'next/headers';
import type { ReactNode } from 'react';
import { Providers } from '@/ui/theme/providers';

/** The pages of whoever works with it. */
export default async function ApplicationLayout({ children }: { children: ReactNode }) {
  const nonce = (await headers()).get('x-nonce') ?? undefined;
  return (
    <>
      <InitColorSchemeScript
        attribute="data-theme"
        defaultMode="light"
        modeStorageKey="copper-lane-theme"
        nonce={nonce}
      />
      <AppRouterCacheProvider options={{ enableCssLayer: true, nonce }}>
        <Providers>{children}</Providers>
      </AppRouterCacheProvider>
    </>
  );
}
