import { FORMAT_TRAITS } from '../../core/deliver/format';
import { rm } from 'node:fs/promises';
import type { Receipt } from '../../core/deliver/receipt';
import { decodeImpulses, requireImpulses, type StoredImpulse } from '../impulses/impulses';
import type { AudioStore } from '../store/audio-store';
import { makeFinishedFile, type FinishedFileOrder } from './finished-file';

/** Everything a delivery is made from. */
export interface DeliveryOrder extends FinishedFileOrder {
  /** The file in the store that the mix is rendered from. */
  workingHash: string;
  /** Impulse responses that the lane names. */
  impulses: Record<string, StoredImpulse>;
}

export interface MadeDelivery {
  hash: string;
  receipt: Receipt;
}

/** Renders, measures the finished file and puts it into the store; nothing is left when it fails. */
export async function makeDelivery(
  store: AudioStore,
  order: DeliveryOrder,
  onProgress: (share: number) => void,
): Promise<MadeDelivery> {
  const file = await store.temporary(`.${FORMAT_TRAITS[order.destination.format.name].extension}`);
  try {
    const impulses = await decodeImpulses(order.impulses, (hash) => store.locate(hash), order.mix.sampleRate);
    requireImpulses(order.lane, impulses);
    const paths = {
      input: await store.locate(order.workingHash),
      output: file,
      scratch: await store.temporary('.raw'),
      cover: order.cover ? await store.locate(order.cover.sha256) : undefined,
    };
    const receipt = await makeFinishedFile(order, impulses, paths, onProgress);
    const { hash } = await store.put(file);
    return { hash, receipt };
  } catch (error) {
    await rm(file, { force: true });
    throw error;
  }
}
