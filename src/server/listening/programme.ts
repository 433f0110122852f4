import type { Knex } from 'knex';
import { z } from 'zod';
import { heardSourceSchema, MOST_HEARD_TRACKS, type NewLink, OUTLINE_COLUMNS } from '../../contracts/listening';
import { trailSeconds } from '../../contracts/track-time';
import { laneSchema } from '../../core/lane/schema';
import { jointSchema } from '../../core/sequence/joint';
import { Problem } from '../problem';
import { getRelease } from '../releases/releases';
import { chosenVersions, versionsById } from '../versions/chosen-version';

/** Rate in Hz of everything that is streamed: that of Opus. */
export const STREAM_RATE = 48000;

/** Places of files that are not one track: the whole programme, and the passage of a blind test. */
export const WHOLE = -1;
export const PASSAGE = -2;

/** Version of the saved form of what is heard on a link. */
const SCHEMA = 1;

const versionSchema = z.object({ id: z.uuid(), name: z.string(), step: z.number(), lane: laneSchema });
const preferenceSchema = z.object({
  trackId: z.uuid(),
  between: z.tuple([heardSourceSchema, heardSourceSchema]),
  trials: z.int(),
});

/** What is to be rendered for a link, as it was decided on: what is changed later does not change it. */
export const listeningProgrammeSchema = z.object({
  schema: z.literal(SCHEMA),
  title: z.string(),
  artist: z.string(),
  tracks: z
    .array(
      z.object({
        ...{ trackId: z.uuid(), mixId: z.uuid(), title: z.string(), artist: z.string(), joint: jointSchema },
        /** By which the mix trails the track's own time. */
        trailSeconds: z.number(),
        master: versionSchema,
        other: versionSchema.nullable(),
      }),
    )
    .min(1)
    .max(MOST_HEARD_TRACKS),
  preference: preferenceSchema.nullable(),
});
export type ListeningProgramme = z.infer<typeof listeningProgrammeSchema>;

/** What can be heard on a link, since it was rendered. */
export const heardSchema = z.object({
  schema: z.literal(SCHEMA),
  title: z.string(),
  artist: z.string(),
  /** Changes with every rendering. */
  edition: z.string(),
  sources: z.array(heardSourceSchema),
  tracks: z.array(
    z.object({
      ...{ trackId: z.uuid(), mixId: z.uuid(), versionId: z.uuid(), step: z.number() },
      ...{ title: z.string(), artist: z.string(), version: z.string(), other: z.string().nullable() },
      /** In what is streamed. */
      ...{ startSeconds: z.number(), endSeconds: z.number() },
      /** Second of the track's own time that it begins with. */
      firstSeconds: z.number(),
      outline: z.array(z.number()).max(OUTLINE_COLUMNS),
    }),
  ),
  preference: preferenceSchema.nullable(),
});
export type Heard = z.infer<typeof heardSchema>;

type Wanted = Pick<NewLink, 'tracks' | 'preference'>;

/**
 * What is to be rendered of some tracks of a release, in its order and as everything is now. Throws a Problem: 404 for a track or
 * version of another release, 409 while a mix is not ready, 422 for a blind test of what is not heard.
 */
export async function listeningProgramme(
  trx: Knex,
  accountId: string,
  releaseId: string,
  { tracks: wanted, preference }: Wanted,
): Promise<ListeningProgramme> {
  const release = await getRelease(trx, accountId, releaseId);
  const ids = wanted.map(({ trackId }) => trackId);
  const tracks = release.tracks.filter(({ id }) => ids.includes(id));
  if (tracks.length !== ids.length)
    throw new Problem(404, 'One of these tracks is no longer in the release. Reload the page.');
  const waiting = tracks.find(({ mix }) => mix?.status !== 'ready');
  if (waiting)
    throw new Problem(409, `The mix of “${waiting.title}” is not ready. Wait for its analysis, or leave it out.`);
  const chosen = await chosenVersions(trx, ids);
  const named = await versionsById(
    trx,
    wanted.flatMap(({ versionId, otherVersionId }) => [versionId, otherVersionId]).filter((id) => id !== null),
  );
  const versionOf = (trackId: string, id: string) => {
    const version = named.get(id);
    if (version?.trackId !== trackId) throw new Problem(404, 'A version was deleted meanwhile. Reload the page.');
    return version;
  };
  const stored = ({ id, name, step, lane }: { id: string; name: string; step: number; lane: unknown }) =>
    versionSchema.parse({ id, name, step, lane });
  const programme: ListeningProgramme = {
    ...{ schema: SCHEMA, title: release.title, artist: release.artist, preference },
    tracks: tracks.map(({ id, title, artist, joint, mix, mixes }) => {
      const { versionId, otherVersionId } = wanted.find(({ trackId }) => trackId === id)!;
      return {
        ...{ trackId: id, mixId: mix!.id, title, artist: artist || release.artist, joint },
        trailSeconds: trailSeconds(mix, mixes),
        master: stored(versionId === null ? chosen.get(id)! : versionOf(id, versionId)),
        other: otherVersionId === null ? null : stored(versionOf(id, otherVersionId)),
      };
    }),
  };
  if (preference) {
    const track = programme.tracks.find(({ trackId }) => trackId === preference.trackId);
    if (!track || (preference.between.includes('other') && !track.other))
      throw new Problem(422, 'The blind test compares something that this link does not have. Choose it again.');
  }
  return programme;
}

/** The same tracks in the same versions as they are now. Versions that were deleted give way to the chosen ones. */
export async function updatedProgramme(
  trx: Knex,
  accountId: string,
  releaseId: string,
  { tracks, preference }: ListeningProgramme,
): Promise<ListeningProgramme> {
  const ids = tracks.flatMap(({ master, other }) => (other ? [master.id, other.id] : [master.id]));
  const there = await versionsById(trx, ids);
  const kept = (id: string | undefined) => (id !== undefined && there.has(id) ? id : null);
  const wanted = tracks.map(({ trackId, master, other }) => ({
    ...{ trackId, versionId: kept(master.id), otherVersionId: kept(other?.id) },
  }));
  const without = wanted.some(({ trackId, otherVersionId }) => trackId === preference?.trackId && !otherVersionId);
  const dropped = without && preference?.between.includes('other');
  return listeningProgramme(trx, accountId, releaseId, { tracks: wanted, preference: dropped ? null : preference });
}
