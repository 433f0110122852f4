import { renderStreams, type MadeStreams, type StreamOrder } from '../../listening/render-streams';
import { jobStore } from '../../store/audio-store';
import { runThread } from './report';

export interface ListeningData {
  /** Marks the temporary files of this claim. */
  owner: string;
  order: StreamOrder;
}

await runThread<ListeningData, MadeStreams>(({ owner, order }, onProgress) =>
  renderStreams(jobStore(owner), order, onProgress),
);
