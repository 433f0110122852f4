import { redirect } from 'next/navigation';
import { currentAccount } from '@/server/accounts/session';
import { ReleasesView } from '@/ui/releases/releases-view';

export default async function ReleasesPage() {
  if (!(await currentAccount())) redirect('/sign-in');
  return <ReleasesView />;
}
