import type { Knex } from 'knex';
import type { Logger } from 'pino';
import { deliveredRate } from '../../../core/deliver/destination';
import { getConfig } from '../../config';
import { deliveryOrder } from '../../deliveries/deliveries';
import { signed } from '../../deliveries/signature';
import { isDiskFull } from '../../failures';
import type { DeliveryOrder, MadeDelivery } from '../../render/delivery';
import { LANE_SHARE } from '../../render/finished-file';
import { jobStore } from '../../store/audio-store';
import { requireRoom } from '../../store/room';
import type { HeldRun, LaneRuns } from '../lane-runs';
import { claim, claimed, holdBack, keepLease } from '../lease';
import { FinalProblem, runInThread } from '../thread';
import type { DeliverData } from '../threads/deliver';

const NO_ROOM = 'The server is out of disk space. The file is rendered as soon as there is room.';

/** Stereo in 64 bits after the lane, and at the delivered rate with the file itself. */
function bytesNeeded({ mix, destination }: DeliveryOrder): number {
  const frames = (mix.frames * deliveredRate(destination, mix.sampleRate)) / mix.sampleRate;
  return mix.frames * 2 * 8 + frames * 2 * (8 + 4);
}

/** Renders a delivery, measures the finished file and writes its receipt. */
export async function deliverTask(db: Knex, logger: Logger, runs: LaneRuns, id: string): Promise<void> {
  const held = await claim(db, 'deliver', id);
  if (!held) return;
  const order = await deliveryOrder(db, id);
  if (!order) return;
  await jobStore(id).discard();
  const owner = `${id}.${held.token}.`;
  const store = jobStore(owner);
  const lease = keepLease(db, held, logger);
  let lane: HeldRun | null = null;
  try {
    await requireRoom(store, bytesNeeded(order));
    lane = await runs.hold(order, (share) => lease.progress(LANE_SHARE * share), lease.signal);
    const data: DeliverData = { owner, order, laneRun: lane.run };
    const { hash, receipt } = await runInThread<MadeDelivery>('deliver', data, lease.progress, lease.signal);
    await claimed(db, held).update({
      status: 'finished',
      progress: 1,
      file_hash: hash,
      receipt: JSON.stringify(signed(receipt, getConfig().dataFolder)),
      finished_at: db.fn.now(),
    });
  } catch (error) {
    if (lease.signal.aborted) return;
    logger.error({ err: error, delivery: id }, 'delivery failed');
    if (isDiskFull(error)) return await holdBack(db, held, NO_ROOM);
    const problem =
      error instanceof FinalProblem
        ? error.message
        : 'The file could not be rendered. Nothing was delivered; start it again.';
    await claimed(db, held).update({ status: 'failed', problem, finished_at: db.fn.now() });
  } finally {
    lease.end();
    lane?.release();
    await store.discard();
  }
}
