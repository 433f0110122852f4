import { z } from 'zod';
import { placedAdjustmentSchema } from './adjustment';
import { candidateSchema } from './candidate';
import { deliverySummarySchema } from './delivery';
import { releaseDestinationSchema } from './destination';
import { encodeChecksSchema } from './encode-check';
import { noteSchema } from './note';
import { referenceSchema } from './reference';
import { mixSummarySchema } from './release';
import { type VersionState, versionStateSchema } from './version';

const titled = { id: z.string(), title: z.string() };

/** Everything the workspace of one track shows. */
export const trackDetailsSchema = z.object({
  /** `chosenVersionId`: the version that the release is put together from. */
  track: z.object({ ...titled, position: z.number(), chosenVersionId: z.string() }),
  release: z.object({ ...titled, artist: z.string() }),
  previousTrackId: z.string().nullable(),
  nextTrackId: z.string().nullable(),
  /** The mix in use. */
  mix: mixSummarySchema.nullable(),
  /** All mixes, the newest first. */
  mixes: z.array(mixSummarySchema),
  /** The tracks of the release, to copy a stage to. */
  tracks: z.array(z.object({ ...titled, position: z.number() })),
  versions: z.array(versionStateSchema).min(1),
  destinations: z.array(releaseDestinationSchema),
  /** Levels and drives that differ for a destination. */
  adjustments: z.array(placedAdjustmentSchema),
  /** What a file of it says about itself. */
  tags: z.record(z.string(), z.string()),
  deliveries: z.array(deliverySummarySchema),
  /** What the listening bar offers; null when nothing was saved. */
  candidates: z.array(candidateSchema).nullable(),
  notes: z.array(noteSchema),
  /** Encodes of masters of the mix in use. */
  encodes: encodeChecksSchema,
  /** The references of the account. */
  references: z.array(referenceSchema),
});
export type TrackDetails = z.infer<typeof trackDetailsSchema>;

/** The version of a track that the release is put together from: what is delivered, measured and copied to. */
export function chosenVersion({ track, versions }: Pick<TrackDetails, 'track' | 'versions'>): VersionState {
  return versions.find(({ id }) => id === track.chosenVersionId) ?? versions[0];
}
