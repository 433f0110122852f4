'use client';

import Alert from '@mui/material/Alert';
import { useOffline, useServiceWorker } from './use-offline';

/** Says plainly that there is no connection, above every page. */
export function OfflineBar() {
  useServiceWorker();
  if (!useOffline()) return null;
  return (
    <Alert severity="warning" sx={{ borderRadius: 0 }}>
      You are offline. What is open can be heard and looked at; changes are saved when the connection is back.
    </Alert>
  );
}
