import type { Metadata } from 'next';
import { signedIn } from '@/server/accounts/signed-in';
import { ReferencesView } from '@/ui/references/references-view';

export const metadata: Metadata = { title: 'References' };

export default async function ReferencesPage() {
  await signedIn('/references');
  return <ReferencesView />;
}
