'use client';

import Button from '@mui/material/Button';
import Link from 'next/link';
import { MessagePage } from '@/ui/kit/message-page';

/** For addresses that lead nowhere. */
export default function NotFound() {
  return (
    <MessagePage
      title="There is nothing here"
      action={
        <Button component={Link} href="/" variant="contained">
          Go to your releases
        </Button>
      }
    >
      The address may be mistyped, or what was here has been deleted.
    </MessagePage>
  );
}
