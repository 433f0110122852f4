import { redirect } from 'next/navigation';
import { currentAccount } from '@/server/accounts/session';
import { ReleaseView } from '@/ui/release/release-view';

export default async function ReleasePage({ params }: { params: Promise<{ releaseId: string }> }) {
  if (!(await currentAccount())) redirect('/sign-in');
  return <ReleaseView releaseId={(await params).releaseId} />;
}
