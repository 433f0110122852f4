import { makeImage, type ImageOrder, type MadeImage } from '../../images/make-image';
import { jobStore } from '../../store/audio-store';
import { KeptWork } from '../../store/kept-work';
import { runThread } from './report';

export interface ImageData {
  /** Marks the temporary files of this claim. */
  owner: string;
  /** The image. */
  id: string;
  order: ImageOrder;
}

await runThread<ImageData, MadeImage>(({ owner, id, order }, onProgress) => {
  const store = jobStore(owner);
  return makeImage(store, new KeptWork(store, id), order, onProgress);
});
