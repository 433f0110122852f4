import type { Knex } from 'knex';
import type { Logger } from 'pino';
import { deliveryOrder } from '../../bench/deliveries';
import type { MadeDelivery } from '../../render/delivery';
import { claim, keepLease } from '../lease';
import { FinalProblem, runInThread } from '../thread';

/** Renders a delivery, measures the finished file and writes its receipt. */
export async function deliverTask(db: Knex, logger: Logger, id: string): Promise<void> {
  if (!(await claim(db, 'deliver', id))) return;
  const order = await deliveryOrder(db, id);
  if (!order) return;
  const lease = keepLease(db, 'deliver', id, logger);
  try {
    const { hash, receipt } = await runInThread<MadeDelivery>('deliver', order, lease.progress, lease.signal);
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
  }
}
