import type { Destination } from '../core/deliver/destination';
import type { DeliverySummary } from './delivery';
import type { MixSummary } from './release';
import type { VersionState } from './version';

/** Everything the workspace of one track shows. */
export interface Workspace {
  track: { id: string; title: string; position: number };
  release: { id: string; title: string; artist: string };
  previousTrackId: string | null;
  nextTrackId: string | null;
  mix: MixSummary | null;
  versions: VersionState[];
  destinations: { id: string; settings: Destination }[];
  deliveries: DeliverySummary[];
}
