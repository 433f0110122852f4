'use client';

import './without-eval';
import CssBaseline from '@mui/material/CssBaseline';
import { ThemeProvider } from '@mui/material/styles';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { useFocusKeeper } from '../kit/focus-keeper';
import { OfflineBar } from '../offline/offline-bar';
import { UndoBar } from '../kit/undo-bar';
import { theme } from './theme';

/** What every page stands in: theme and the cache of what the server said. */
export function Providers({ children }: { children: ReactNode }) {
  const [client] = useState(
    () => new QueryClient({ defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: false } } }),
  );
  useFocusKeeper();
  return (
    <QueryClientProvider client={client}>
      <ThemeProvider theme={theme} defaultMode="light" modeStorageKey="copper-lane-theme">
        <CssBaseline />
        <OfflineBar />
        {children}
        <UndoBar />
      </ThemeProvider>
    </QueryClientProvider>
  );
}
