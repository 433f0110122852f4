import type { Metadata } from 'next';
import { requireThere, signedIn, titleOf } from '@/server/accounts/signed-in';
import { SequenceView } from '@/ui/sequence/sequence-view';

interface Props {
  params: Promise<{ releaseId: string }>;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const title = await titleOf('releases', (await params).releaseId);
  return { title: title ? `Sequence of ${title}` : 'Sequence' };
}

export default async function SequencePage({ params }: Props) {
  const { releaseId } = await params;
  await signedIn(`/releases/${releaseId}/sequence`);
  await requireThere('releases', releaseId);
  return <SequenceView releaseId={releaseId} />;
}
