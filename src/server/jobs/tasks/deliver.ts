import type { Knex } from 'knex';
import type { Logger } from 'pino';
import { deliveryOrder } from '../../bench/deliveries';
import type { DeliverData } from '../threads/deliver';
import type { MadeDelivery } from '../../render/delivery';
import { audioStore } from '../../store/audio-store';
import { claim, keepLease } from '../lease';
import { FinalProblem, runInThread } from '../thread';

/** Renders a delivery, measures the finished file and writes its receipt. */
export async function deliverTask(db: Knex, logger: Logger, id: string): Promise<void> {
  if (!(await claim(db, 'deliver', id))) return;
  const order = await deliveryOrder(db, id);
  if (!order) return;
  const store = audioStore(id);
  await store.discard();
  const lease = keepLease(db, 'deliver', id, logger);
  try {
    const data: DeliverData = { id, order };
    const { hash, receipt } = await runInThread<MadeDelivery>('deliver', data, lease.progress, lease.signal);
    const finished = {
      status: 'finished',
      progress: 1,
      file_hash: hash,
      receipt: JSON.stringify(receipt),
      finished_at: db.fn.now(),
    };
    await db('deliveries').where({ id, status: 'rendering' }).update(finished);
  } catch (error) {
    if (lease.signal.aborted) return;
    logger.error({ err: error, delivery: id }, 'delivery failed');
    const problem =
      error instanceof FinalProblem
        ? error.message
        : 'The file could not be rendered. Nothing was delivered; start it once more.';
    await db('deliveries')
      .where({ id, status: 'rendering' })
      .update({ status: 'failed', problem, finished_at: db.fn.now() });
  } finally {
    lease.end();
    await store.discard();
  }
}
