import { createHash, randomBytes } from 'node:crypto';
import { sealData, unsealData } from 'iron-session';
import type { Knex } from 'knex';
import type { ChangeLink, LinkSummary, NewLink } from '../../contracts/listening';
import { hashPassword } from '../accounts/password';
import { getConfig } from '../config';
import { enqueue } from '../jobs/queue';
import { requireOwn } from '../ownership';
import { Problem } from '../problem';
import { reserve } from '../store/reserve';
import { listeningProgramme, listeningProgrammeSchema, updatedProgramme, type ListeningProgramme } from './programme';

/** Random bytes in an address. */
const TOKEN_BYTES = 24;
/** Links of a release, at most. */
const MOST_LINKS = 100;

/** What an address is found by. */
const tokenHash = (token: string) => createHash('sha256').update(token).digest('hex');
const seal = (token: string) => sealData(token, { password: getConfig().sessionSecret, ttl: 0 });
const unseal = (sealed: string) => unsealData<string>(sealed, { password: getConfig().sessionSecret, ttl: 0 });

function requireLater(expiresAt: string | null | undefined): void {
  if (expiresAt && new Date(expiresAt).getTime() <= Date.now())
    throw new Problem(422, 'The link would have expired already. Choose a later day, or none.');
}

/** Makes a link and queues what is heard on it. Throws a Problem: 404 for another's, 409 or 422 with a reason. */
export async function createLink(
  db: Knex,
  accountId: string,
  releaseId: string,
  asked: NewLink,
): Promise<{ id: string }> {
  const { recipient, passphrase, expiresAt, download, lossless, handles } = asked;
  requireLater(expiresAt);
  // Nobody has the server hash for a release that is not theirs.
  await requireOwn(db, 'releases', accountId, releaseId, ['id']);
  const secret = await newSecret();
  const passphrase_hash = passphrase === null ? null : await hashPassword(passphrase);
  return db.transaction(async (trx) => {
    await requireOwn(trx, 'releases', accountId, releaseId, ['id'], { lock: true });
    const [{ count }] = await trx('listening_links')
      .where({ release_id: releaseId, removed_at: null })
      .count<{ count: string }[]>('id');
    if (Number(count) >= MOST_LINKS)
      throw new Problem(422, `A release has at most ${MOST_LINKS} links. Delete those that are no longer needed.`);
    const programme = await listeningProgramme(trx, accountId, releaseId, asked);
    const reserved = await streamBytes(trx, accountId, programme, asked);
    const [{ id }] = await trx('listening_links')
      .insert({
        reserved_bytes: reserved,
        ...{ release_id: releaseId, recipient, download, lossless, handles, expires_at: expiresAt },
        ...{ passphrase_hash, ...secret },
        programme: JSON.stringify(programme),
      })
      .returning<{ id: string }[]>('id');
    await enqueue(trx, 'listening', id);
    return { id };
  });
}

/** Bytes a second of a source in both encodes, and of one in FLAC at 48 kHz and 24 bits, at most. */
const ENCODED_BYTES = (160_000 + 192_000) / 8;
const LOSSLESS_BYTES = 48_000 * 2 * 3;

/** Bytes that a link's streams are going to take. Throws a Problem as {@link reserve} does. */
function streamBytes(
  trx: Knex,
  accountId: string,
  { tracks }: ListeningProgramme,
  { lossless, download }: Pick<LinkRow, 'lossless' | 'download'>,
): Promise<number> {
  const mixIds = tracks.map(({ mixId }) => mixId);
  const sources = tracks.some(({ other }) => other) ? 3 : 2;
  const whole = Number(lossless) + Number(download);
  return reserve(trx, accountId, mixIds, () => sources * ENCODED_BYTES + whole * LOSSLESS_BYTES);
}

/** A row of the table of links. */
export interface LinkRow {
  id: string;
  release_id: string;
  recipient: string;
  sealed_token: string;
  status: LinkSummary['status'];
  progress: number;
  problem: string | null;
  held_because: string | null;
  passphrase_hash: string | null;
  expires_at: Date | null;
  revoked_at: Date | null;
  removed_at: Date | null;
  download: boolean;
  lossless: boolean;
  handles: boolean;
  visits: number;
  last_visit_at: Date | null;
  created_at: Date;
  programme: unknown;
  heard: unknown;
}

const iso = (date: Date | null) => date?.toISOString() ?? null;

/** Path of a link's page; null where another secret has sealed it, as in an installation that was restored without it. */
async function pathOf(sealed: string): Promise<string | null> {
  const token: unknown = await unseal(sealed).catch(() => null);
  return typeof token === 'string' ? `/listen/${token}` : null;
}

/** Another address, as it is kept. */
async function newSecret(): Promise<{ token_hash: string; sealed_token: string }> {
  const token = randomBytes(TOKEN_BYTES).toString('base64url');
  return { token_hash: tokenHash(token), sealed_token: await seal(token) };
}

async function summaryOf(row: LinkRow): Promise<LinkSummary> {
  const { id, recipient, status, progress, problem, visits, download, lossless, handles } = row;
  const { tracks } = listeningProgrammeSchema.parse(row.programme);
  return {
    ...{ id, recipient, status, progress, problem, visits, download, lossless, handles },
    path: await pathOf(row.sealed_token),
    ready: row.heard !== null,
    heldBecause: row.held_because,
    tracks: tracks.map(({ title, master, other }) => ({
      ...{ title, versions: other ? [master.name, other.name] : [master.name] },
    })),
    protected: row.passphrase_hash !== null,
    expiresAt: iso(row.expires_at),
    revokedAt: iso(row.revoked_at),
    lastVisitAt: iso(row.last_visit_at),
    createdAt: row.created_at.toISOString(),
  };
}

/** The links of a release, the newest first. Throws a Problem (404) for another's. */
export async function listLinks(db: Knex, accountId: string, releaseId: string): Promise<LinkSummary[]> {
  await requireOwn(db, 'releases', accountId, releaseId, ['id']);
  const rows = await db('listening_links')
    .where({ release_id: releaseId, removed_at: null })
    .orderBy('created_at', 'desc')
    .select();
  return Promise.all((rows as LinkRow[]).map(summaryOf));
}

/** Ends a link, opens it again, changes when it expires, or renders it again. Throws a Problem as {@link createLink} does. */
export async function changeLink(
  db: Knex,
  accountId: string,
  id: string,
  { expiresAt, revoked, update, newAddress }: ChangeLink,
): Promise<void> {
  requireLater(expiresAt);
  await db.transaction(async (trx) => {
    const columns = ['release_id', 'programme', 'status', 'lossless', 'download'] as const;
    const row = await requireOwn<Pick<LinkRow, (typeof columns)[number]>>(
      ...([trx, 'listening_links', accountId, id, columns, { lock: true }] as const),
    );
    const changes = {
      ...(expiresAt !== undefined && { expires_at: expiresAt }),
      ...(revoked !== undefined && { revoked_at: revoked ? trx.fn.now() : null }),
      ...(newAddress && (await newSecret())),
    };
    if (Object.keys(changes).length > 0) await trx('listening_links').where({ id }).update(changes);
    if (!update) return;
    const before = listeningProgrammeSchema.parse(row.programme);
    const programme = await updatedProgramme(trx, accountId, row.release_id, before);
    // A job under way loses its claim: what it renders is no longer wanted.
    await trx('listening_links')
      .where({ id })
      .update({
        reserved_bytes: await streamBytes(trx, accountId, programme, row),
        ...{ programme: JSON.stringify(programme), status: 'waiting', progress: 0, problem: null, crashes: 0 },
        ...{ lease_token: null, held_because: null, waiting_since: trx.fn.now() },
      });
    await enqueue(trx, 'listening', id);
  });
}

/** Deletes a link, which ends at once; it can be restored, and what was answered through it stays. */
export async function removeLink(db: Knex, accountId: string, id: string): Promise<void> {
  await db.transaction(async (trx) => {
    await requireOwn(trx, 'listening_links', accountId, id, ['id'], { lock: true });
    await trx('listening_links').where({ id }).update({ removed_at: trx.fn.now() });
  });
}

/** The link of an address, and whether its release or one of its tracks was deleted; undefined when there is none. */
export async function linkByToken(db: Knex, token: string): Promise<(LinkRow & { deleted: boolean }) | undefined> {
  const row = await db('listening_links as l')
    .join('releases as r', 'r.id', 'l.release_id')
    .where({ 'l.token_hash': tokenHash(token) })
    .first<(LinkRow & { releaseRemovedAt: Date | null }) | undefined>('l.*', 'r.removed_at as releaseRemovedAt');
  if (!row) return undefined;
  const { tracks } = listeningProgrammeSchema.parse(row.programme);
  const ids = [...new Set(tracks.map(({ trackId }) => trackId))];
  const [{ count }] = await db('tracks').whereIn('id', ids).whereNull('removed_at').count<{ count: string }[]>('id');
  return { ...row, deleted: row.releaseRemovedAt !== null || Number(count) < ids.length };
}
