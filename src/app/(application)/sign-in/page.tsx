import type { Metadata } from 'next';
import { awaitsFirstAccount } from '@/server/accounts/accounts';
import { DEMO } from '@/server/accounts/demo-account';
import { demoPresent } from '@/server/accounts/sign-in';
import { pageAfterSignIn } from '@/server/accounts/signed-in';
import { database } from '@/server/database/connection';
import { SignInView } from '@/ui/sign-in/sign-in-view';

export const dynamic = 'force-dynamic';
export const metadata: Metadata = { title: 'Sign in' };

export default async function SignInPage({ searchParams }: { searchParams: Promise<{ next?: string | string[] }> }) {
  const { email, password } = DEMO;
  const first = await awaitsFirstAccount(database());
  const next = pageAfterSignIn((await searchParams).next);
  return <SignInView demo={(await demoPresent(database())) ? { email, password } : null} first={first} next={next} />;
}
