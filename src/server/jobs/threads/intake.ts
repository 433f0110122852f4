import type { Source } from '../../codecs/probe';
import { takeIn, type TakenIn } from '../../intake/take-in';
import { audioStore } from '../../store/audio-store';
import { runThread } from './report';

export interface IntakeData {
  id: string;
  originalHash: string;
  source: Source;
}

await runThread<IntakeData, TakenIn>(({ id, originalHash, source }, onProgress) =>
  takeIn(audioStore(id), originalHash, source, onProgress),
);
