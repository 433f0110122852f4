import { type MeasuringOrder, type MadeMeasurement, measureLane } from '../../measurements/measure-lane';
import { AudioStore, storeFolder } from '../../store/audio-store';
import { runThread } from './report';

export type MeasureData = MeasuringOrder;

await runThread<MeasureData, MadeMeasurement>((order, onProgress) =>
  measureLane(new AudioStore(storeFolder()), order, onProgress),
);
