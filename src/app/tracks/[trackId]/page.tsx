import { redirect } from 'next/navigation';
import { currentAccount } from '@/server/accounts/session';
import { TrackView } from '@/ui/track/track-view';

export default async function TrackPage({ params }: { params: Promise<{ trackId: string }> }) {
  if (!(await currentAccount())) redirect('/sign-in');
  return <TrackView trackId={(await params).trackId} />;
}
