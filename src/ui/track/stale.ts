'use client';

import { useMeasurements } from './context';

/** How figures look that were true before the last change. */
export const STALE = { color: 'text.secondary', fontStyle: 'italic' } as const;

/** Whether the figures of the whole track are of the lane before its last change. */
export function useStale(): boolean {
  return useMeasurements((state) => state.share !== null);
}
