import { useLane, useSelection } from '../../track/context';

/** Bands of the lane, and which of them is open. */
export function useOpenBand(): { count: number; open: number } {
  const count = useLane((state) => state.version.lane.crossovers.frequenciesHz.length + 1);
  const band = useSelection((state) => state.band);
  return { count, open: Math.min(band, count - 1) };
}
