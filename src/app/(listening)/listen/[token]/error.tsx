'use client';

import { PlainPage } from '@/ui/kit/plain-page';

/** For what goes wrong while a listening page is drawn. */
export default function ErrorPage() {
  return (
    <PlainPage title="This page could not be shown">
      <p>Something went wrong on our side. Reload the page; if it happens again, tell whoever sent you the link.</p>
    </PlainPage>
  );
}
