import { DEMO, demoPresent } from '@/server/accounts/sign-in';
import { SignInView } from '@/ui/sign-in/sign-in-view';

export const dynamic = 'force-dynamic';

export default async function SignInPage() {
  const { email, password } = DEMO;
  return <SignInView demo={(await demoPresent()) ? { email, password } : null} />;
}
