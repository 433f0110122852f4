import { redirect } from 'next/navigation';
import { currentAccount } from '@/server/accounts/session';
import { AccountView } from '@/ui/account/account-view';

export default async function AccountPage() {
  if (!(await currentAccount())) redirect('/sign-in');
  return <AccountView />;
}
