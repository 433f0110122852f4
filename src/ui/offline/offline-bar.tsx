'use client';

import Alert from '@mui/material/Alert';
import { useEffect, useState } from 'react';
import { sentenceOf } from '../../core/sentence-of';
import { sendWaitingProposals } from '../handles/proposal-outbox';
import { useOffline, useNoServiceWorker } from './use-offline';

/** Says plainly that there is no connection, above every page; what waits for one goes out with it. */
export function OfflineBar() {
  const offline = useOffline();
  const [refused, setRefused] = useState<string | null>(null);
  useNoServiceWorker();
  useEffect(() => {
    if (!offline) sendWaitingProposals().catch((caught: Error) => setRefused(sentenceOf(caught)));
  }, [offline]);
  if (refused)
    return (
      <Alert severity="error" sx={{ borderRadius: 0 }} onClose={() => setRefused(null)}>
        A proposal made on this device could not be sent. {refused}
      </Alert>
    );
  if (!offline) return null;
  return (
    <Alert severity="warning" sx={{ borderRadius: 0 }}>
      You are offline. What is open can be heard and looked at; changes are saved when the connection is back.
    </Alert>
  );
}
