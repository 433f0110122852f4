import { makeDelivery, type DeliveryOrder, type MadeDelivery } from '../../render/delivery';
import { jobStore } from '../../store/audio-store';
import { runThread } from './report';

export interface DeliverData {
  /** Marks the temporary files of this claim. */
  owner: string;
  order: DeliveryOrder;
}

await runThread<DeliverData, MadeDelivery>(({ owner, order }, onProgress) =>
  makeDelivery(jobStore(owner), order, onProgress),
);
