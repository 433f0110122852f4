import type { Metadata } from 'next';
import { signedIn } from '@/server/accounts/signed-in';
import { DestinationsView } from '@/ui/destinations/destinations-view';

export const metadata: Metadata = { title: 'Destinations' };

export default async function DestinationsPage() {
  await signedIn('/destinations');
  return <DestinationsView />;
}
