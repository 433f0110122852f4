import { makeImage, type ImageOrder, type MadeImage } from '../../images/make-image';
import { jobStore } from '../../store/audio-store';
import { runThread } from './report';

export interface ImageData {
  /** Marks the temporary files of this claim. */
  owner: string;
  order: ImageOrder;
}

await runThread<ImageData, MadeImage>(({ owner, order }, onProgress) => makeImage(jobStore(owner), order, onProgress));
