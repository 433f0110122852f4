import { INSTALLED } from '@/ui/offline/installed';

/** Lets a listening page be installed by itself. It tells nothing of what is heard, as browsers ask for it without cookies. */
export async function GET(_: Request, { params }: { params: Promise<{ token: string }> }): Promise<Response> {
  const start_url = `/listen/${encodeURIComponent((await params).token)}`;
  const manifest = { name: 'Listening page', short_name: 'Listen', start_url, scope: start_url, ...INSTALLED };
  return Response.json(manifest, { headers: { 'Content-Type': 'application/manifest+json' } });
}
