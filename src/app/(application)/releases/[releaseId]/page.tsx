import type { Metadata } from 'next';
import { requireThere, signedIn, titleOf } from '@/server/accounts/signed-in';
import { ReleaseView } from '@/ui/release/release-view';

interface Props {
  params: Promise<{ releaseId: string }>;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: (await titleOf('releases', (await params).releaseId)) ?? 'Release' };
}

export default async function ReleasePage({ params }: Props) {
  const { releaseId } = await params;
  await signedIn(`/releases/${releaseId}`);
  await requireThere('releases', releaseId);
  return <ReleaseView releaseId={releaseId} />;
}
