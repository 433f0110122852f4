import { makeDelivery, type DeliveryOrder, type MadeDelivery } from '../../render/delivery';
import type { LaneRun } from '../../render/lane-run';
import { jobStore } from '../../store/audio-store';
import { runThread } from './report';

export interface DeliverData {
  /** Marks the temporary files of this claim. */
  owner: string;
  order: DeliveryOrder;
  laneRun: LaneRun;
}

await runThread<DeliverData, MadeDelivery>(({ owner, order, laneRun }, onProgress) =>
  makeDelivery(jobStore(owner), order, laneRun, onProgress),
);
