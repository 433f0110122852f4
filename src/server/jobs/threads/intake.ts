import type { Source } from '../../codecs/probe';
import { takeIn, type TakenIn } from '../../intake/take-in';
import { audioStore } from '../../store/audio-store';
import { runThread } from './report';

export interface IntakeData {
  originalHash: string;
  source: Source;
}

await runThread<IntakeData, TakenIn>(({ originalHash, source }, onProgress) =>
  takeIn(audioStore(), originalHash, source, onProgress),
);
