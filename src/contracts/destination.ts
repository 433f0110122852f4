import { z } from 'zod';
import { destinationSchema } from '../core/deliver/destination';

/** A destination on the account's shelf. */
export const shelfEntrySchema = z.object({
  id: z.string(),
  settings: destinationSchema,
  /** Whether a new release starts with it. */
  starts: z.boolean(),
});
export type ShelfEntry = z.infer<typeof shelfEntrySchema>;
export const shelfSchema = z.array(shelfEntrySchema);

/** A destination as it is put on the shelf, or changed there. */
export const putOnShelfSchema = z.strictObject({ settings: destinationSchema, starts: z.boolean() });
export type PutOnShelf = z.infer<typeof putOnShelfSchema>;

/** A destination of a release: with the values that it was given. */
export const releaseDestinationSchema = z.object({
  id: z.string(),
  settings: destinationSchema,
  /** What the shelf has of it now, where that differs; null where it does not, or is no longer there. */
  newer: destinationSchema.nullable(),
});
export type ReleaseDestination = z.infer<typeof releaseDestinationSchema>;

/** Takes a destination from the shelf for a release. */
export const takeDestinationSchema = z.strictObject({ shelfId: z.uuid('Say which destination.') });
