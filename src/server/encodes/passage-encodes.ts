import { randomUUID } from 'node:crypto';
import type { Knex } from 'knex';
import type { PassageEncodes, NewPassageEncodes } from '../../contracts/encode-check';
import { impulsesOf } from '../impulses/impulses';
import { subjectOf } from '../measurements/subject';
import { Problem } from '../problem';
import { jobStore } from '../store/audio-store';
import { Newest } from './newest';
import { inPassageThread } from './passage-thread';

/** Passages that are encoded at a time, of all accounts. */
const MOST_AT_A_TIME = 4;
/** Routes are bundled apart, and share what is kept here. */
const holder = globalThis as { copperPassages?: Newest };

interface MixRow {
  workingHash: string;
  sampleRate: number;
  loudest: { start: number; end: number } | null;
}

/**
 * Encodes of the loudest passage of a version's lane as it is saved, measured. Throws a Problem: 404 for another's, 409
 * while the mix is not ready or when a newer request came, 503 when the server has too much of this to do.
 */
export async function encodePassage(
  db: Knex,
  accountId: string,
  versionId: string,
  { encodes }: NewPassageEncodes,
  left: AbortSignal,
): Promise<PassageEncodes> {
  const { mixId, lane, step } = await subjectOf(db, accountId, versionId);
  const mix = await db('mixes')
    .where({ id: mixId })
    .first<MixRow>(
      ...['working_hash as workingHash', 'sample_rate as sampleRate'],
      db.raw(`findings -> 'loudest' as loudest`) as never,
    );
  if (!mix.loudest) throw new Problem(409, 'This mix has no loudest passage: it is silent.');
  const underWay = (holder.copperPassages ??= new Newest(MOST_AT_A_TIME));
  const controller = underWay.begin(accountId);
  const stop = () => controller.abort();
  left.addEventListener('abort', stop);
  const owner = `passage.${randomUUID()}.`;
  try {
    const { workingHash, sampleRate, loudest } = mix;
    const impulses = await impulsesOf(db, accountId, lane);
    const order = { ...{ encodes, lane, workingHash, sampleRate, impulses }, ...loudest };
    return { ...(await inPassageThread(owner, order, controller.signal)), step };
  } catch (error) {
    if (controller.signal.aborted) throw new Problem(409, 'A newer change is checked instead.');
    throw error;
  } finally {
    left.removeEventListener('abort', stop);
    underWay.end(accountId, controller);
    await jobStore(owner).discard();
  }
}
