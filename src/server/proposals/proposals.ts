import type { Knex } from 'knex';
import { type Decide, type NewProposal, positionsSchema, type Proposal } from '../../contracts/proposal';
import type { VersionState } from '../../contracts/version';
import { changesOf, changeWords, movedPositions, withPositions, type HandlePositions } from '../../core/house/proposal';
import { parseLane, type Lane } from '../../core/lane/schema';
import { requireOwn } from '../ownership';
import { Problem } from '../problem';
import { changeLane, VERSION_COLUMNS, versionState, type VersionRow } from '../versions/versions';

/** Proposals of a track that wait for an answer, and those that are listed. */
const MOST_OPEN = 50;
const MOST_LISTED = 100;

interface Row {
  id: string;
  track_id: string;
  version_id: string;
  step: number;
  positions: unknown;
  changes: string;
  author: string;
  made_at: Date;
  decision: Proposal['decision'];
}

const COLUMNS = [
  ...(['id', 'track_id', 'version_id', 'step', 'positions', 'changes', 'author', 'made_at', 'decision'] as const),
];

/** The lane of a version at a step; undefined where the history does not reach back to it. */
async function laneAt(db: Knex, versionId: string, step: number): Promise<Lane | undefined> {
  const edit = await db('edits')
    .where({ version_id: versionId, sequence: step })
    .first<{ lane: unknown } | undefined>('lane');
  return edit && parseLane(edit.lane);
}

/**
 * Keeps a proposal for a version of a track whose right to propose was checked. What arrives twice is kept once. Throws a Problem:
 * 404 when there is no such version, 409 when its handles are others by now, 422 when nothing was moved or too many wait.
 */
export async function addProposal(
  db: Knex,
  trackId: string,
  linkId: string | null,
  { versionId, step, positions, author, madeAt }: NewProposal,
): Promise<{ id: string }> {
  return db.transaction(async (trx) => {
    await trx('tracks').where({ id: trackId }).forUpdate().first('id');
    const known = { version_id: versionId, author, made_at: madeAt };
    const there = await trx('proposals').where(known).first<{ id: string } | undefined>('id');
    if (there) return there;
    const version = await trx('versions')
      .where({ id: versionId, track_id: trackId, removed_at: null })
      .first<{ current: number } | undefined>('current');
    if (!version) throw new Problem(404, 'This version was deleted meanwhile. Nothing was sent.');
    const lane = (await laneAt(trx, versionId, step)) ?? (await laneAt(trx, versionId, version.current));
    if (!lane || !withPositions(lane, positions))
      throw new Problem(409, 'The handles of this version are others by now. Reload the page.');
    const changes = changesOf(lane, positions);
    if (changes.length === 0) throw new Problem(422, 'Move a handle first: nothing is different yet.');
    const [{ count }] = await trx('proposals')
      .where({ track_id: trackId, decision: null })
      .count<{ count: string }[]>('id');
    if (Number(count) >= MOST_OPEN)
      throw new Problem(422, `${MOST_OPEN} proposals for this track wait for an answer. Wait until some are answered.`);
    const [row] = await trx('proposals')
      .insert({
        ...{ ...known, track_id: trackId, link_id: linkId, step },
        ...{ positions: JSON.stringify(movedPositions(lane, positions)), changes: changeWords(changes) },
      })
      .returning<{ id: string }[]>('id');
    return row;
  });
}

/** The same by whoever is signed in, from another device. Throws besides a Problem (404) for another's track. */
export async function addOwnProposal(
  db: Knex,
  accountId: string,
  trackId: string,
  asked: NewProposal,
): Promise<{ id: string }> {
  await requireOwn(db, 'tracks', accountId, trackId, ['id']);
  return addProposal(db, trackId, null, asked);
}

/** A proposal beside its version as it is now. */
async function proposalOf(db: Knex, row: Row, version: VersionRow): Promise<Proposal> {
  const { lane } = await versionState(db, version);
  const positions: HandlePositions = positionsSchema.parse(row.positions);
  return {
    ...{ id: row.id, trackId: row.track_id, versionId: row.version_id, version: version.name, author: row.author },
    ...{ madeAt: row.made_at.toISOString(), changes: row.changes, decision: row.decision },
    lane: withPositions(lane, positions),
    moved: version.current !== row.step,
  };
}

/** The proposals for a track, the newest first. Throws a Problem (404) for another's. */
export async function listProposals(db: Knex, accountId: string, trackId: string): Promise<Proposal[]> {
  await requireOwn(db, 'tracks', accountId, trackId, ['id']);
  const rows = await db('proposals')
    .where({ track_id: trackId })
    .orderBy('made_at', 'desc')
    .limit(MOST_LISTED)
    .select<Row[]>(...COLUMNS);
  const versions = await db('versions')
    .whereIn(
      'id',
      rows.map(({ version_id }) => version_id),
    )
    .whereNull('removed_at')
    .select<VersionRow[]>(...VERSION_COLUMNS);
  const told = rows.map((row) => {
    const version = versions.find(({ id }) => id === row.version_id);
    return version ? [proposalOf(db, row, version)] : [];
  });
  return Promise.all(told.flat());
}

/**
 * Takes a proposal as the next step of its version, or refuses it. Taken on a version that was changed since, it moves the handles
 * of the version as it is. Throws a Problem: 404 for another's, 409 when the version or the proposal was changed by someone else.
 */
export async function decideProposal(
  db: Knex,
  accountId: string,
  id: string,
  answer: Decide,
): Promise<VersionState | null> {
  return db.transaction(async (trx) => {
    const row = await requireOwn<Row>(trx, 'proposals', accountId, id, COLUMNS, { lock: true });
    const version = await requireOwn<{ name: string }>(trx, 'versions', accountId, row.version_id, ['name'], {
      reach: 'removedToo',
    });
    const proposal = `The proposal of ${row.author} for “${version.name}”`;
    if (row.decision !== null)
      throw new Problem(409, `${proposal} was ${row.decision} already. Reload the page to see what is there now.`);
    const { decision } = answer;
    await trx('proposals').where({ id }).update({ decision, decided_at: trx.fn.now(), seen_at: trx.fn.now() });
    if (decision === 'refused') return null;
    const positions: HandlePositions = positionsSchema.parse(row.positions);
    const change = {
      versionId: row.version_id,
      after: answer.after,
      label: `Proposal of ${row.author}: ${row.changes}`,
    };
    await changeLane(trx, accountId, change, (lane) => {
      const next = withPositions(lane, positions);
      if (!next) throw new Problem(409, `${proposal} can’t be taken: the handles of that version are others by now.`);
      return next;
    });
    return versionState(trx, await requireOwn<VersionRow>(trx, 'versions', accountId, row.version_id, VERSION_COLUMNS));
  });
}
