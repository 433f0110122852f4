import type { Metadata } from 'next';
import { requireThere, signedIn, titleOf } from '@/server/accounts/signed-in';
import { database } from '@/server/database/connection';
import { Problem } from '@/server/problem';
import { ownHandles } from '@/server/proposals/handles-page';
import { HandlesView } from '@/ui/handles/handles-view';
import { PlainPage } from '@/ui/kit/plain-page';

interface Props {
  params: Promise<{ trackId: string }>;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const title = await titleOf('tracks', (await params).trackId);
  return { title: title ? `Handles of ${title}` : 'Handles' };
}

/** The handles of one's own track, for a phone in the car. */
export default async function HandlesPage({ params }: Props) {
  const { trackId } = await params;
  const account = await signedIn(`/handles/${trackId}`);
  await requireThere('tracks', trackId);
  const page = await ownHandles(database(), account.id, account.name, trackId).catch((error: unknown) => {
    if (error instanceof Problem) return error;
    throw error;
  });
  if (page instanceof Problem)
    return (
      <PlainPage title="The handles can’t be opened">
        <p>{page.message}</p>
      </PlainPage>
    );
  return (
    <HandlesView
      page={page}
      audioPath={`/api/mixes/${page.mix.id}/audio`}
      impulsesPath="/api/impulses"
      sendPath={`/api/tracks/${trackId}/proposals`}
      back={`/releases/${page.releaseId}`}
    />
  );
}
