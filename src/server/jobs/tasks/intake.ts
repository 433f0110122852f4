import type { Knex } from 'knex';
import type { Logger } from 'pino';
import type { Source } from '../../codecs/probe';
import type { IntakeReport } from '../../../core/measure/intake-report';
import type { OlderMix } from '../../intake/line-up';
import type { TakenIn } from '../../intake/take-in';
import { isDiskFull } from '../../failures';
import { jobStore, type AudioStore } from '../../store/audio-store';
import { requireRoom } from '../../store/room';
import { claim, claimed, holdBack, keepLease } from '../lease';
import { FinalProblem, runInThread } from '../thread';
import type { IntakeData } from '../threads/intake';

/** The newest ready mix of a track that is aligned, before one with a given number. */
async function olderMix(db: Knex, trackId: string, before: number): Promise<OlderMix | null> {
  const row = await db('mixes')
    .where({ track_id: trackId, status: 'ready', removed_at: null })
    .andWhere('number', '<', before)
    .andWhereRaw("(lined_up is null or lined_up ->> 'outcome' = 'found')")
    .orderBy('number', 'desc')
    .first<{ number: number; working_hash: string; sample_rate: number; findings: IntakeReport } | undefined>(
      'number',
      'working_hash',
      'sample_rate',
      'findings',
    );
  if (!row) return null;
  const { start, end } = row.findings.loudest;
  return {
    number: row.number,
    workingHash: row.working_hash,
    sampleRate: row.sample_rate,
    loudestSeconds: (start + end) / 2 / row.sample_rate,
  };
}

const NO_ROOM = 'The server is out of disk space. This mix is analysed as soon as there is room; the file is kept.';
/** Of a mix that does not say how long it is, this much is taken to be its working file's size for each byte. */
const UNPACKED = 4;

/** What the working file may take up. */
async function bytesNeeded(store: AudioStore, hash: string, { durationSeconds, sampleRate }: Source): Promise<number> {
  return durationSeconds > 0 ? durationSeconds * sampleRate * 8 : UNPACKED * (await store.size(hash));
}

/** Makes a mix's working file and findings; an unusable mix is marked as refused, with the reason. */
export async function intakeTask(db: Knex, logger: Logger, id: string): Promise<void> {
  const held = await claim(db, 'intake', id);
  if (!held) return;
  const row = await db('mixes')
    .where({ id })
    .first<{ track_id: string; number: number; original_hash: string; source: Source } | undefined>(
      'track_id',
      'number',
      'original_hash',
      'source',
    );
  if (!row) return;
  await jobStore(id).discard();
  const owner = `${id}.${held.token}.`;
  const store = jobStore(owner);
  const lease = keepLease(db, held, logger);
  try {
    const older = await olderMix(db, row.track_id, row.number);
    const data: IntakeData = { owner, originalHash: row.original_hash, source: row.source, older };
    await requireRoom(store, await bytesNeeded(store, row.original_hash, row.source).catch(() => 0));
    const { workingHash, workingFormat, report, linedUp } = await runInThread<TakenIn>(
      'intake',
      data,
      lease.progress,
      lease.signal,
    );
    const ready = {
      status: 'ready',
      progress: 1,
      working_hash: workingHash,
      working_format: workingFormat,
      frames: report.frames,
      findings: JSON.stringify(report),
      lined_up: linedUp && JSON.stringify(linedUp),
    };
    await db.transaction(async (trx) => {
      const taken = await claimed(trx, held).update(ready);
      // The newest mix is the one that is used, until an older one is chosen again.
      if (taken > 0) await trx('tracks').where({ id: row.track_id }).update({ mix_id: null });
    });
  } catch (error) {
    if (lease.signal.aborted) return;
    if (!(error instanceof FinalProblem)) logger.error({ err: error, mix: id }, 'intake failed');
    if (isDiskFull(error)) return await holdBack(db, held, NO_ROOM);
    const refusal =
      error instanceof FinalProblem
        ? error.message
        : 'Something went wrong on our side, and the file could not be analysed. Upload it again.';
    // A faulty file is dropped with the row's reference to it; a failure on our side keeps it.
    const original = error instanceof FinalProblem && error.status === 422 ? { original_hash: null } : {};
    await claimed(db, held).update({ status: 'refused', refusal, ...original });
  } finally {
    lease.end();
    await store.discard();
  }
}
