import { useMemo } from 'react';
import { checkedEncodes } from '../../contracts/encode-check';
import type { Facts } from '../../core/deliver/facts';
import { masterFacts } from '../../core/deliver/master-facts';
import type { ProgrammeReading } from '../../engine/measure/measurement';
import { useEncodes, useLane, useTrack } from './context';

/**
 * What is known of a measured master of this track, for verdicts; null before it is measured. Encodes are those of the saved
 * lane.
 */
export function useMasterFacts(master: ProgrammeReading | null | undefined): Facts | null {
  const mix = useTrack((state) => state.details.mix);
  const tags = useTrack((state) => state.details.tags);
  const edges = useLane((state) => state.version.lane.edges);
  const checks = useEncodes((state) => state.checks);
  return useMemo(() => {
    if (!master || !mix) return null;
    return masterFacts(master, mix, { tags, edges, encodes: checkedEncodes(checks) });
  }, [master, mix, tags, edges, checks]);
}
