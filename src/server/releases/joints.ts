import type { Knex } from 'knex';
import type { Lane } from '../../core/lane/schema';
import { impulsesOf } from '../impulses/impulses';
import { FinalProblem, runInThread } from '../jobs/thread';
import { notFound, Problem } from '../problem';
import type { OrderedLane } from '../render/delivery';
import { chosenVersions } from '../versions/chosen-version';
import { getRelease } from './releases';
import type { JointOrder } from './render-joint';

/** Joints that are rendered at a time, of all accounts. */
const MOST_AT_A_TIME = 3;
/** Routes are bundled apart, and share what is kept here. */
const holder = globalThis as { copperJoints?: number };

async function orderedLane(db: Knex, accountId: string, mixId: string, lane: Lane): Promise<OrderedLane> {
  const mix = await db('mixes')
    .where({ id: mixId })
    .first<{ fileName: string; originalHash: string; workingHash: string; sampleRate: number; frames: string }>(
      ...['file_name as fileName', 'original_hash as originalHash', 'working_hash as workingHash'],
      ...['sample_rate as sampleRate', 'frames'],
    );
  const { workingHash, frames, ...rest } = mix;
  return {
    ...{ workingHash, lane, impulses: await impulsesOf(db, accountId, lane) },
    mix: { ...rest, channels: 2, frames: Number(frames), bits: 24, bitsUsed: null },
  };
}

/**
 * How a track of a release follows the one before it, as FLAC to listen to. Throws a Problem: 404 for another's, 409 while a mix
 * is not ready or there is none before it, 503 when the server has too much of this to do.
 */
export async function jointAudio(
  db: Knex,
  accountId: string,
  releaseId: string,
  trackId: string,
  left: AbortSignal,
): Promise<Uint8Array> {
  const { tracks } = await getRelease(db, accountId, releaseId);
  const index = tracks.findIndex(({ id }) => id === trackId);
  if (index < 0) throw notFound('track');
  if (index === 0) throw new Problem(409, 'No track comes before the first one.');
  const pair = [tracks[index - 1], tracks[index]];
  const waiting = pair.find(({ mix }) => mix?.status !== 'ready');
  if (waiting) throw new Problem(409, `The mix of “${waiting.title}” is not ready. Wait until its analysis is done.`);
  const versions = await chosenVersions(
    db,
    pair.map(({ id }) => id),
  );
  const [ending, starting] = await Promise.all(
    pair.map(({ id, mix }) => orderedLane(db, accountId, mix!.id, versions.get(id)!.lane)),
  );
  if ((holder.copperJoints ?? 0) >= MOST_AT_A_TIME)
    throw new Problem(503, 'The server is rendering as many joints as it can. Try again in a moment.', {
      retryAfterSeconds: 3,
    });
  holder.copperJoints = (holder.copperJoints ?? 0) + 1;
  try {
    const order: JointOrder = { ending, joint: tracks[index].joint, starting };
    return await runInThread<Uint8Array>('joint', order, () => {}, left);
  } catch (error) {
    throw error instanceof FinalProblem ? new Problem(error.status, error.message) : error;
  } finally {
    holder.copperJoints--;
  }
}
