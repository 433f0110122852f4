import type { Knex } from 'knex';
import { parseLane, type Lane } from '../../core/lane/schema';

/** The version that a release is put together from. */
export interface ChosenVersion {
  id: string;
  name: string;
  /** Number of the step that it is at. */
  step: number;
  lane: Lane;
}

/** The chosen version of each track, by track: the first one where none was chosen, or the chosen one was deleted. */
export async function chosenVersions(db: Knex, trackIds: readonly string[]): Promise<Map<string, ChosenVersion>> {
  const rows = await db('versions as v')
    .join('tracks as t', 't.id', 'v.track_id')
    .join('edits as e', (join) => join.on('e.version_id', 'v.id').andOn('e.sequence', 'v.current'))
    .whereIn('v.track_id', trackIds)
    .whereNull('v.removed_at')
    .distinctOn('v.track_id')
    .orderByRaw('v.track_id, (v.id = t.chosen_version) desc nulls last, v.position, v.created_at')
    .select<(Omit<ChosenVersion, 'lane'> & { trackId: string; lane: unknown })[]>(
      ...['v.id', 'v.name', 'v.current as step', 'v.track_id as trackId', 'e.lane'],
    );
  return new Map(rows.map(({ trackId, lane, ...version }) => [trackId, { ...version, lane: parseLane(lane) }]));
}

/** Versions by their identifiers, with the track of each. */
export async function versionsById(
  db: Knex,
  ids: readonly string[],
): Promise<Map<string, ChosenVersion & { trackId: string }>> {
  const rows = await db('versions as v')
    .join('edits as e', (join) => join.on('e.version_id', 'v.id').andOn('e.sequence', 'v.current'))
    .whereIn('v.id', ids)
    .whereNull('v.removed_at')
    .select<(Omit<ChosenVersion, 'lane'> & { trackId: string; lane: unknown })[]>(
      ...['v.id', 'v.name', 'v.current as step', 'v.track_id as trackId', 'e.lane'],
    );
  return new Map(rows.map(({ lane, ...version }) => [version.id, { ...version, lane: parseLane(lane) }]));
}

/** The versions of each track in their order, by track. */
export async function versionNames(
  db: Knex,
  trackIds: readonly string[],
): Promise<Map<string, { id: string; name: string }[]>> {
  const rows = await db('versions')
    .whereIn('track_id', trackIds)
    .whereNull('removed_at')
    .orderBy(['position', 'created_at'])
    .select<{ id: string; name: string; trackId: string }[]>('id', 'name', 'track_id as trackId');
  const byTrack = new Map<string, { id: string; name: string }[]>();
  for (const { trackId, ...version } of rows) byTrack.set(trackId, [...(byTrack.get(trackId) ?? []), version]);
  return byTrack;
}
