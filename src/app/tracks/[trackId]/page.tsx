import { redirect } from 'next/navigation';
import { currentAccount } from '@/server/accounts/session';
import { WorkspaceView } from '@/ui/track/track-view';

export default async function TrackPage({ params }: { params: Promise<{ trackId: string }> }) {
  if (!(await currentAccount())) redirect('/sign-in');
  return <WorkspaceView trackId={(await params).trackId} />;
}
