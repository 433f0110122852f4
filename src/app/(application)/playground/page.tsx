import { notFound, redirect } from 'next/navigation';
import { Playground } from '@/dev/playground/playground';
import { currentAccount } from '@/server/accounts/session';
import { database } from '@/server/database/connection';

/** Stages with made-up music, in development only. */
export default async function PlaygroundPage({
  searchParams,
}: {
  searchParams: Promise<{ stage?: string; playing?: string }>;
}) {
  if (process.env.NODE_ENV !== 'development') notFound();
  if (!(await currentAccount(database()))) redirect('/sign-in');
  const { stage, playing } = await searchParams;
  return <Playground stage={stage} playing={playing === 'yes'} />;
}
