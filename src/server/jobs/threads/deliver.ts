import { makeDelivery, type DeliveryOrder, type MadeDelivery } from '../../render/delivery';
import { audioStore } from '../../store/audio-store';
import { runThread } from './report';

await runThread<DeliveryOrder, MadeDelivery>((order, onProgress) => makeDelivery(audioStore(), order, onProgress));
