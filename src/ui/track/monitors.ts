import type { Monitor } from '../../engine/live/protocol';

/** What the ways of listening are called. */
export const MONITOR_TITLES: Record<Monitor, string> = {
  stereo: 'Stereo',
  mono: 'Mono',
  side: 'Side',
  left: 'Left',
  right: 'Right',
};
