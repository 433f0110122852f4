import { adjustmentAmong, type KeptAdjustment } from '../../contracts/adjustment';
import { useLane, useTrack } from './context';

/** What of the open version differs for a destination of the release, by the destination’s identifier. */
export function useAdjustments(): (destinationId: string) => KeptAdjustment {
  const versionId = useLane((state) => state.version.id);
  const adjustments = useTrack((state) => state.details.adjustments);
  return (destinationId) => adjustmentAmong(adjustments, versionId, destinationId);
}
