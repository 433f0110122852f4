import type { Source } from '../../codecs/probe';
import type { OlderMix } from '../../intake/line-up';
import { takeIn, type TakenIn } from '../../intake/take-in';
import { jobStore } from '../../store/audio-store';
import { runThread } from './report';

export interface IntakeData {
  /** Marks the temporary files of this claim. */
  owner: string;
  originalHash: string;
  source: Source;
  older: OlderMix | null;
}

await runThread<IntakeData, TakenIn>(({ owner, originalHash, source, older }, onProgress) =>
  takeIn(jobStore(owner), originalHash, source, older, onProgress),
);
