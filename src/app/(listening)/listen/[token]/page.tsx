import type { Metadata } from 'next';
import { headers } from 'next/headers';
import { notFound } from 'next/navigation';
import { database } from '@/server/database/connection';
import { listeningPage } from '@/server/listening/listening-page';
import { openLink } from '@/server/listening/visitor';
import { Problem } from '@/server/problem';
import { PlainPage } from '@/ui/kit/plain-page';
import { ListeningView } from '@/ui/listening/listening-view';
import { PassphraseForm } from '@/ui/listening/passphrase-form';

interface Props {
  params: Promise<{ token: string }>;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const manifest = `/listen/${encodeURIComponent((await params).token)}/manifest.webmanifest`;
  return { title: 'Listen', robots: { index: false, follow: false }, manifest };
}

export default async function ListenPage({ params }: Props) {
  const { token } = await params;
  const link = await openLink(database(), { headers: await headers() }, token).catch((error: unknown) => {
    if (error instanceof Problem) return error;
    throw error;
  });
  if (!(link instanceof Problem)) return <ListeningView token={token} page={await listeningPage(database(), link)} />;
  if (link.status === 404) notFound();
  if (link.code === 'passphrase') return <PassphraseForm token={token} />;
  return (
    <PlainPage title={link.code === 'gone' ? 'This link has ended' : 'Please wait'}>
      <p>{link.message}</p>
    </PlainPage>
  );
}
