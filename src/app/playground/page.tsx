import { notFound } from 'next/navigation';
import { Playground } from '@/dev/playground/playground';

/** Stages with made-up music, in development only. */
export default async function PlaygroundPage({
  searchParams,
}: {
  searchParams: Promise<{ stage?: string; playing?: string }>;
}) {
  if (process.env.NODE_ENV !== 'development') notFound();
  const { stage, playing } = await searchParams;
  return <Playground stage={stage} playing={playing === 'yes'} />;
}
