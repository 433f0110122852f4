'use client';

import Button from '@mui/material/Button';
import { MessagePage } from '@/ui/kit/message-page';

/** For what goes wrong while a page is drawn. */
export default function ErrorPage({ error, retry }: { error: Error & { digest?: string }; retry: () => void }) {
  return (
    <MessagePage
      title="This page could not be shown"
      action={
        <Button variant="contained" onClick={retry}>
          Try again
        </Button>
      }
    >
      Something went wrong on our side. What you saved is safe.
      {error.digest && ` If it happens again, look for this in the server’s log: ${error.digest}`}
    </MessagePage>
  );
}
