import { z } from 'zod';
import { remembered } from '../kit/remembered';

export const LOWEST_VOLUME_DB = -60;
/** What dim takes off. */
export const DIM_DB = 20;

/** How loud one listens. It comes after every meter and is no part of what is measured or delivered. */
export const useVolume = remembered(
  'volume',
  z.object({
    volumeDb: z.number().min(LOWEST_VOLUME_DB).max(0).default(0),
    dimmed: z.boolean().default(false),
  }),
);

/** Gain in dB of what goes to the loudspeakers. */
export function listeningGainDb({ volumeDb, dimmed } = useVolume.getState()): number {
  return volumeDb - (dimmed ? DIM_DB : 0);
}

export function toggleDim(): void {
  useVolume.setState({ dimmed: !useVolume.getState().dimmed });
}
