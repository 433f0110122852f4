import { PLACES } from '../../core/elsewhere/places';
import { LISTENING_BANDS } from '../../engine/live/listening-bands';
import type { Monitor } from '../../engine/live/protocol';
import type { AuditionState } from './audition';

/** What the ways of listening are called. */
export const MONITOR_TITLES: Record<Monitor, string> = {
  stereo: 'Stereo',
  mono: 'Mono (mid)',
  side: 'Side',
  left: 'Left',
  right: 'Right',
  swapped: 'Swapped',
  inverted: 'Right inverted',
};

/** Everything about what is heard that is not normal stereo: the place, the channels, the band. */
export function departures({
  monitor,
  band,
  elsewhere,
}: Pick<AuditionState, 'monitor' | 'band' | 'elsewhere'>): string[] {
  return [
    ...(elsewhere === null ? [] : [PLACES[elsewhere].title]),
    ...(monitor === 'stereo' ? [] : [MONITOR_TITLES[monitor]]),
    ...(band === null ? [] : [LISTENING_BANDS[band]]),
  ];
}
