import type { Metadata } from 'next';
import { headers } from 'next/headers';
import { notFound } from 'next/navigation';
import { database } from '@/server/database/connection';
import { openLink } from '@/server/listening/visitor';
import { Problem } from '@/server/problem';
import { linkHandles } from '@/server/proposals/handles-page';
import { HandlesView } from '@/ui/handles/handles-view';
import { PlainPage } from '@/ui/kit/plain-page';

export const metadata: Metadata = { title: 'Handles', robots: { index: false, follow: false } };

export default async function LinkHandlesPage({ params }: { params: Promise<{ token: string; trackId: string }> }) {
  const { token, trackId } = await params;
  const back = `/listen/${encodeURIComponent(token)}`;
  const page = await openLink(database(), { headers: await headers() }, token)
    .then((link) => linkHandles(database(), link, trackId))
    .catch((error: unknown) => {
      if (error instanceof Problem) return error;
      throw error;
    });
  if (page instanceof Problem) {
    if (page.status === 404) notFound();
    return (
      <PlainPage title="The handles can’t be opened">
        <p>{page.message}</p>
        <p>
          <a href={back}>Back to listening</a>
        </p>
      </PlainPage>
    );
  }
  const own = `/api/listening/${encodeURIComponent(token)}/tracks/${trackId}`;
  return (
    <HandlesView
      {...{ page, back }}
      audioPath={`${own}/mix`}
      impulsesPath={`${own}/impulses`}
      sendPath={`${own}/proposals`}
    />
  );
}
