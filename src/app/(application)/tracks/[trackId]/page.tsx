import type { Metadata } from 'next';
import { requireThere, signedIn, titleOf } from '@/server/accounts/signed-in';
import { TrackView } from '@/ui/track/track-view';

interface Props {
  params: Promise<{ trackId: string }>;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: (await titleOf('tracks', (await params).trackId)) ?? 'Track' };
}

export default async function TrackPage({ params }: Props) {
  const { trackId } = await params;
  await signedIn(`/tracks/${trackId}`);
  await requireThere('tracks', trackId);
  return <TrackView trackId={trackId} />;
}
