import type { Metadata } from 'next';
import { signedIn } from '@/server/accounts/signed-in';
import { ReleasesView } from '@/ui/releases/releases-view';

export const metadata: Metadata = { title: 'Releases' };

export default async function ReleasesPage() {
  await signedIn('/');
  return <ReleasesView />;
}
