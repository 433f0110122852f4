import { renderStreams, type MadeStreams, type StreamOrder } from '../../listening/render-streams';
import { jobStore } from '../../store/audio-store';
import { KeptWork } from '../../store/kept-work';
import { runThread } from './report';

export interface ListeningData {
  /** Marks the temporary files of this claim. */
  owner: string;
  /** The link. */
  id: string;
  order: StreamOrder;
}

await runThread<ListeningData, MadeStreams>(({ owner, id, order }, onProgress) => {
  const store = jobStore(owner);
  return renderStreams({ store, kept: new KeptWork(store, id) }, order, onProgress);
});
