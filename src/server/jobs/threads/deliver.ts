import { makeDelivery, type DeliveryOrder, type MadeDelivery } from '../../render/delivery';
import { audioStore } from '../../store/audio-store';
import { runThread } from './report';

export interface DeliverData {
  id: string;
  order: DeliveryOrder;
}

await runThread<DeliverData, MadeDelivery>(({ id, order }, onProgress) =>
  makeDelivery(audioStore(id), order, onProgress),
);
