import type { Destination } from '../core/deliver/destination';
import type { DeliverySummary } from './delivery';
import type { MixSummary } from './release';
import type { VersionState } from './version';

/** Everything the workspace of one track shows. */
export interface TrackDetails {
  track: { id: string; title: string; position: number };
  release: { id: string; title: string; artist: string };
  previousTrackId: string | null;
  nextTrackId: string | null;
  /** The mix that is used. */
  mix: MixSummary | null;
  /** All mixes, the newest first. */
  mixes: MixSummary[];
  /** The tracks of the release, to copy a stage to. */
  tracks: { id: string; title: string; position: number }[];
  versions: VersionState[];
  destinations: { id: string; settings: Destination }[];
  deliveries: DeliverySummary[];
}
