import { runOrderedLane, type OrderedLane } from '../../render/delivery';
import type { LaneRun } from '../../render/lane-run';
import { AudioStore, storeFolder } from '../../store/audio-store';
import { runThread } from './report';

export interface LaneData {
  order: OrderedLane;
  /** Where the samples go. */
  file: string;
}

await runThread<LaneData, LaneRun>(({ order, file }, onProgress) =>
  runOrderedLane(new AudioStore(storeFolder()), order, file, onProgress),
);
