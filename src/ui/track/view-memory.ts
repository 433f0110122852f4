import { z } from 'zod';
import { keepText } from '../kit/storage';

const viewSchema = z.object({
  version: z.string().nullable().catch(null),
  openStage: z.string().nullable().catch(null),
  openBand: z.number().int().min(0).catch(0),
  loop: z.object({ start: z.number(), end: z.number() }).nullable().catch(null),
  /** Where the playhead stood. */
  seconds: z.number().min(0).catch(0),
});

/** How a track's workspace was left, kept by the browser. */
export type View = z.infer<typeof viewSchema>;

const key = (trackId: string) => `copper-lane-view-${trackId}`;
const NOTHING: View = { version: null, openStage: null, openBand: 0, loop: null, seconds: 0 };

export function readView(trackId: string): View {
  try {
    return viewSchema.parse(JSON.parse(localStorage.getItem(key(trackId)) ?? 'null'));
  } catch {
    return NOTHING;
  }
}

export function writeView(trackId: string, view: View): void {
  keepText(key(trackId), JSON.stringify(view));
}

/** The version of a track that was last open, else its first; undefined where it has none. */
export function lastOpenVersion<Version extends { id: string }>(
  trackId: string,
  versions: readonly Version[],
): Version | undefined {
  return versions.find(({ id }) => id === readView(trackId).version) ?? versions[0];
}

/** The second of the track that a link to it asks for, taken out of the address; null when it asks for none. */
export function takeAskedSecond(): number | null {
  const url = new URL(window.location.href);
  const asked = url.searchParams.get('at');
  if (asked === null) return null;
  url.searchParams.delete('at');
  window.history.replaceState(window.history.state, '', url);
  return Number.isFinite(Number(asked)) ? Math.max(0, Number(asked)) : null;
}
