import type { Knex } from 'knex';
import { parseLane, type Lane } from '../../core/lane/schema';
import { mixInUse } from '../mixes/mix-list';
import { requireOwn } from '../ownership';
import { Problem } from '../problem';

/** A version's lane as it stands, and the mix that its track is used with. */
interface Subject {
  trackId: string;
  mixId: string;
  /** Name of the version. */
  name: string;
  lane: Lane;
  /** Number of the step that it is. */
  step: number;
}

/** What would be measured of a version. Throws a Problem: 404 for another's, 409 while the mix is not ready. */
export async function subjectOf(db: Knex, accountId: string, versionId: string): Promise<Subject> {
  const { track_id, current, name } = await requireOwn<{ track_id: string; current: number; name: string }>(
    ...([db, 'versions', accountId, versionId, ['track_id', 'current', 'name']] as const),
  );
  const edit = await db('edits').where({ version_id: versionId, sequence: current }).first<{ lane: unknown }>('lane');
  const mix = await mixInUse(db, track_id);
  if (mix?.status !== 'ready')
    throw new Problem(409, 'The mix of this track is not ready. Wait until its analysis is done.');
  return { trackId: track_id, mixId: mix.id, name, lane: parseLane(edit.lane), step: current };
}
