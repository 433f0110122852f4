import type { Knex } from 'knex';
import type { Logger } from 'pino';
import { checkOrder } from '../../encodes/encode-checks';
import type { CheckOrder, MadeCheck } from '../../encodes/check-master';
import { isDiskFull } from '../../failures';
import { jobStore } from '../../store/audio-store';
import { requireRoom } from '../../store/room';
import { claim, claimed, holdBack, keepLease } from '../lease';
import { FinalProblem, runInThread } from '../thread';
import type { EncodeData } from '../threads/encode';

const NO_ROOM = 'The server is out of disk space. The encode is checked as soon as there is room.';

/** The master in 64 and in 32 bits, and its encodes. */
function bytesNeeded({ frames }: CheckOrder): number {
  return frames * 2 * (8 + 4 + 1);
}

/** Encodes a whole master, measures it and keeps the encode. */
export async function encodeTask(db: Knex, logger: Logger, id: string): Promise<void> {
  const held = await claim(db, 'encode', id);
  if (!held) return;
  const order = await checkOrder(db, id);
  if (!order) return;
  await jobStore(id).discard();
  const owner = `${id}.${held.token}.`;
  const store = jobStore(owner);
  const lease = keepLease(db, held, logger);
  try {
    await requireRoom(store, bytesNeeded(order));
    const data: EncodeData = { owner, order };
    const { hash, result } = await runInThread<MadeCheck>('encode', data, lease.progress, lease.signal);
    await claimed(db, held).update({
      ...{ status: 'finished', progress: 1, file_hash: hash, result: JSON.stringify(result) },
    });
  } catch (error) {
    if (lease.signal.aborted) return;
    logger.error({ err: error, check: id }, 'checking an encode failed');
    if (isDiskFull(error)) return await holdBack(db, held, NO_ROOM);
    const problem =
      error instanceof FinalProblem ? error.message : 'The encode could not be made here. Start the check again.';
    await claimed(db, held).update({ status: 'failed', problem });
  } finally {
    lease.end();
    await store.discard();
  }
}
