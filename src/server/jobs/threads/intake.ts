import type { Source } from '../../codecs/probe';
import type { OlderMix } from '../../intake/line-up';
import { takeIn, type TakenIn } from '../../intake/take-in';
import { audioStore } from '../../store/audio-store';
import { runThread } from './report';

export interface IntakeData {
  id: string;
  originalHash: string;
  source: Source;
  older: OlderMix | null;
}

await runThread<IntakeData, TakenIn>(({ id, originalHash, source, older }, onProgress) =>
  takeIn(audioStore(id), originalHash, source, older, onProgress),
);
