import type { Metadata } from 'next';
import { signedIn } from '@/server/accounts/signed-in';
import { SettingsView } from '@/ui/settings/settings-view';

export const metadata: Metadata = { title: 'Settings' };

export default async function SettingsPage() {
  await signedIn('/settings');
  return <SettingsView />;
}
