import type { Knex } from 'knex';
import type { Logger } from 'pino';
import { firstFrame } from '../../../core/sequence/edges';
import { isDiskFull } from '../../failures';
import { STREAM_RATE, type Heard, type ListeningProgramme } from '../../listening/programme';
import type { MadeStreams, StreamOrder } from '../../listening/render-streams';
import { streamOrder } from '../../listening/streams';
import { jobStore } from '../../store/audio-store';
import { KeptWork } from '../../store/kept-work';
import { requireRoom } from '../../store/room';
import { claim, claimed, holdBack, keepLease } from '../lease';
import { FinalProblem, runInThread } from '../thread';
import type { ListeningData } from '../threads/listening';

const NO_ROOM = 'The server is out of disk space. The streams are rendered as soon as there is room.';

/** Each source in 64 bits, once by track and once together, the files, and the longest track while it is rendered. */
function bytesNeeded({ masters, others }: StreamOrder): number {
  const frames = masters.map(({ mix }) => (mix.frames * STREAM_RATE) / mix.sampleRate);
  const all = frames.reduce((sum, each) => sum + each, 0);
  return all * 2 * ((others ? 3 : 2) * 16 + 8) + Math.max(...frames) * 2 * 8;
}

/** What can be heard, by what was decided and what was rendered. */
function heardOf(
  { schema, title, artist, tracks, preference }: ListeningProgramme,
  edition: string,
  made: MadeStreams,
) {
  const others = tracks.some(({ other }) => other);
  const heard: Heard = {
    ...{ schema, title, artist, edition, preference, sources: others ? ['mix', 'master', 'other'] : ['mix', 'master'] },
    tracks: tracks.map(({ trackId, mixId, master, other, trailSeconds, ...track }, i) => ({
      ...{ trackId, mixId, versionId: master.id, step: master.step, title: track.title, artist: track.artist },
      ...{ version: master.name, other: other?.name ?? null, ...made.tracks[i] },
      firstSeconds: (master.lane.edges ? firstFrame(master.lane.edges, STREAM_RATE) / STREAM_RATE : 0) - trailSeconds,
    })),
  };
  return heard;
}

/** Renders what is heard on a listening link. */
export async function listeningTask(db: Knex, logger: Logger, id: string): Promise<void> {
  const held = await claim(db, 'listening', id);
  if (!held) return;
  await jobStore(id).discard();
  const owner = `${id}.${held.token}.`;
  const store = jobStore(owner);
  const kept = new KeptWork(store, id);
  const lease = keepLease(db, held, logger);
  try {
    const found = await streamOrder(db, id);
    if (!found) throw new FinalProblem(409, 'A mix of this release was deleted for good. Make a new link.');
    const { order, programme, releaseId } = found;
    await requireRoom(store, bytesNeeded(order));
    const data: ListeningData = { owner, id, order };
    const made = await runInThread<MadeStreams>('listening', data, lease.progress, lease.signal);
    const finished = await db.transaction(async (trx) => {
      const heard = JSON.stringify(heardOf(programme, held.token, made));
      const written = await claimed(trx, held).update({ status: 'finished', progress: 1, heard });
      if (written === 0) return false;
      await trx('listening_files').where({ link_id: id }).delete();
      const files = made.files.map(({ hash, ...file }) => ({
        ...{ ...file, file_hash: hash, link_id: id, release_id: releaseId },
      }));
      await trx('listening_files').insert(files);
      return true;
    });
    if (finished) await kept.discard();
  } catch (error) {
    if (lease.signal.aborted) return;
    logger.error({ err: error, link: id }, 'rendering for a listening link failed');
    if (isDiskFull(error)) {
      await kept.discard();
      return await holdBack(db, held, NO_ROOM);
    }
    const problem = error instanceof FinalProblem ? error.message : 'The streams could not be rendered. Try again.';
    await claimed(db, held).update({ status: 'failed', problem });
    await kept.discard();
  } finally {
    lease.end();
    await store.discard();
  }
}
