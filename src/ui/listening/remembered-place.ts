import type { HeardSource } from '../../contracts/listening';
import { keepText } from '../kit/storage';

/** Where someone was on a listening page, kept by the browser. */
export interface RememberedPlace {
  seconds: number;
  source: HeardSource;
  /** Name under which notes are written. */
  author: string;
}

const keyOf = (linkId: string) => `copper-lane-listening-${linkId}`;

/** What was kept, as far as it makes sense. */
export function recallPlace(linkId: string): Partial<RememberedPlace> {
  try {
    const kept = JSON.parse(localStorage.getItem(keyOf(linkId)) ?? '{}') as Record<string, unknown>;
    return {
      ...(typeof kept.seconds === 'number' && Number.isFinite(kept.seconds) && { seconds: Math.max(0, kept.seconds) }),
      ...((kept.source === 'mix' || kept.source === 'master' || kept.source === 'other') && { source: kept.source }),
      ...(typeof kept.author === 'string' && { author: kept.author.slice(0, 60) }),
    };
  } catch {
    return {};
  }
}

/** Keeps a place; a browser that keeps nothing is no reason to stop. */
export function keepPlace(linkId: string, place: RememberedPlace): void {
  keepText(keyOf(linkId), JSON.stringify(place));
}
