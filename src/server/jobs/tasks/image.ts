import type { Knex } from 'knex';
import type { Logger } from 'pino';
import { isDiskFull } from '../../failures';
import { imageOrder } from '../../images/images';
import type { ImageOrder, MadeImage } from '../../images/make-image';
import { jobStore } from '../../store/audio-store';
import { KeptWork } from '../../store/kept-work';
import { requireRoom } from '../../store/room';
import { claim, claimed, holdBack, keepLease } from '../lease';
import { FinalProblem, runInThread } from '../thread';
import type { ImageData } from '../threads/image';

const NO_ROOM = 'The server is out of disk space. The image is made as soon as there is room.';

/** All tracks in 64 bits, once each and once together, the file itself, and the longest track while it is rendered. */
function bytesNeeded({ parts, sampleRate }: ImageOrder): number {
  const frames = parts.map(({ mix }) => (mix.frames * sampleRate) / mix.sampleRate);
  const all = frames.reduce((sum, each) => sum + each, 0);
  return all * 2 * (8 + 8 + 8 + 4) + Math.max(...frames) * 2 * 8;
}

/** Puts a release together in one file, measures it and writes its log. */
export async function imageTask(db: Knex, logger: Logger, id: string): Promise<void> {
  const held = await claim(db, 'image', id);
  if (!held) return;
  await jobStore(id).discard();
  const owner = `${id}.${held.token}.`;
  const store = jobStore(owner);
  const kept = new KeptWork(store, id);
  const lease = keepLease(db, held, logger);
  try {
    const order = await imageOrder(db, id);
    if (!order) throw new FinalProblem(409, 'A mix of this release was deleted for good. Make a new image.');
    await requireRoom(store, bytesNeeded(order));
    const data: ImageData = { owner, id, order };
    const { hash, receipt } = await runInThread<MadeImage>('image', data, lease.progress, lease.signal);
    const written = await claimed(db, held).update({
      ...{ status: 'finished', progress: 1, file_hash: hash, receipt: JSON.stringify(receipt) },
    });
    if (written > 0) await kept.discard();
  } catch (error) {
    if (lease.signal.aborted) return;
    logger.error({ err: error, image: id }, 'making an image failed');
    if (isDiskFull(error)) {
      await kept.discard();
      return await holdBack(db, held, NO_ROOM);
    }
    const problem = error instanceof FinalProblem ? error.message : 'The image could not be made. Start it again.';
    await claimed(db, held).update({ status: 'failed', problem });
    await kept.discard();
  } finally {
    lease.end();
    await store.discard();
  }
}
