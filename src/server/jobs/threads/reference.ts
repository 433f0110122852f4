import type { ReferenceReport } from '../../../contracts/reference';
import type { ReferenceSource } from '../../codecs/probe';
import { database } from '../../database/connection';
import { measureReference } from '../../references/measure-reference';
import { audioStore } from '../../store/audio-store';
import { runThread } from './report';

export interface ReferenceData {
  hash: string;
  source: ReferenceSource;
}

await runThread<ReferenceData, ReferenceReport>(({ hash, source }, onProgress) =>
  measureReference(audioStore(database()), hash, source, onProgress),
);
