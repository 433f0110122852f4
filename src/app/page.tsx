import { redirect } from 'next/navigation';
import { currentAccount } from '@/server/accounts/session';
import { BenchView } from '@/ui/releases/releases-view';

export default async function BenchPage() {
  if (!(await currentAccount())) redirect('/sign-in');
  return <BenchView />;
}
