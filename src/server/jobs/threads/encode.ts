import { checkMaster, type CheckOrder, type MadeCheck } from '../../encodes/check-master';
import { jobStore } from '../../store/audio-store';
import { runThread } from './report';

export interface EncodeData {
  /** Marks the temporary files of this claim. */
  owner: string;
  order: CheckOrder;
}

await runThread<EncodeData, MadeCheck>(({ owner, order }, onProgress) =>
  checkMaster(jobStore(owner), order, onProgress),
);
