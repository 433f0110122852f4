import { awaitsFirstAccount } from '@/server/accounts/accounts';
import { DEMO, demoPresent } from '@/server/accounts/sign-in';
import { database } from '@/server/database/connection';
import { SignInView } from '@/ui/sign-in/sign-in-view';

export const dynamic = 'force-dynamic';

export default async function SignInPage() {
  const { email, password } = DEMO;
  const first = await awaitsFirstAccount(database());
  return <SignInView demo={(await demoPresent()) ? { email, password } : null} first={first} />;
}
