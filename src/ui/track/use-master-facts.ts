import { useMemo } from 'react';
import type { Facts } from '../../core/deliver/facts';
import { masterFacts } from '../../core/deliver/master-facts';
import type { ProgrammeReading } from '../../engine/measure/measurement';
import { useTrack } from './context';

/** What is known of a measured master of this track, for verdicts; null before it is measured. */
export function useMasterFacts(master: ProgrammeReading | null | undefined): Facts | null {
  const mix = useTrack((state) => state.details.mix);
  const tags = useTrack((state) => state.details.tags);
  return useMemo(() => (master && mix ? masterFacts(master, mix, tags) : null), [master, mix, tags]);
}
