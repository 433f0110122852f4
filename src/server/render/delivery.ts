import { FORMAT_TRAITS } from '../../core/deliver/format';
import { rm } from 'node:fs/promises';
import type { Receipt } from '../../core/deliver/receipt';
import type { ImpulseResponse } from '../../core/stages/definition';
import { decodeImpulses, requireImpulses, type StoredImpulse } from '../impulses/impulses';
import type { AudioStore } from '../store/audio-store';
import { makeFinishedFile, type FinishedFileOrder } from './finished-file';
import { runLane, type LaneRun } from './lane-run';

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

/** What a delivery's lane is run from. */
export type OrderedLane = Pick<DeliveryOrder, 'mix' | 'workingHash' | 'lane' | 'impulses'>;

/** Runs the lane of a delivery into a file. Throws a Problem when an impulse response or the mix is missing. */
export async function runOrderedLane(
  store: AudioStore,
  { mix, workingHash, lane, impulses: stored }: OrderedLane,
  target: string,
  onProgress?: (share: number) => void,
): Promise<LaneRun> {
  const { sampleRate, channels, frames } = mix;
  const impulses = await decodeImpulses(stored, (hash) => store.locate(hash), sampleRate);
  requireImpulses(lane, impulses);
  const input = await store.locate(workingHash);
  return runLane({ input, channels, inputRate: sampleRate, frames, lane, impulses }, target, onProgress);
}

/** The lane was run already. */
const NO_IMPULSES: ReadonlyMap<string, ImpulseResponse> = new Map();

/** Renders, measures the finished file and puts it into the store; nothing is left when it fails. */
export async function makeDelivery(
  store: AudioStore,
  order: DeliveryOrder,
  laneRun: LaneRun,
  onProgress: (share: number) => void,
): Promise<MadeDelivery> {
  const file = await store.temporary(`.${FORMAT_TRAITS[order.destination.format.name].extension}`);
  try {
    const paths = {
      input: await store.locate(order.workingHash),
      output: file,
      scratch: await store.temporary('.raw'),
      cover: order.cover ? await store.locate(order.cover.sha256) : undefined,
      laneRun,
    };
    const receipt = await makeFinishedFile(order, NO_IMPULSES, paths, onProgress);
    const { sha256: hash } = receipt.file;
    await store.adopt(file, hash);
    return { hash, receipt };
  } catch (error) {
    await rm(file, { force: true });
    throw error;
  }
}
