import type { Knex } from 'knex';
import type { Logger } from 'pino';
import type { Source } from '../../codecs/probe';
import type { IntakeReport } from '../../../core/measure/intake-report';
import type { OlderMix } from '../../intake/line-up';
import type { TakenIn } from '../../intake/take-in';
import { audioStore } from '../../store/audio-store';
import { claim, keepLease } from '../lease';
import { FinalProblem, runInThread } from '../thread';
import type { IntakeData } from '../threads/intake';

/** The newest mix of a track that is ready and lies in the track's time, ahead of one with a number. */
async function olderMix(db: Knex, trackId: string, before: number): Promise<OlderMix | null> {
  const row = await db('mixes')
    .where({ track_id: trackId, status: 'ready' })
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

/** Makes a mix's working file and findings; a mix that turns out unusable is marked as refused, with the reason. */
export async function intakeTask(db: Knex, logger: Logger, id: string): Promise<void> {
  if (!(await claim(db, 'intake', id))) return;
  const row = await db('mixes')
    .where({ id })
    .first<{ track_id: string; number: number; original_hash: string; source: Source } | undefined>(
      'track_id',
      'number',
      'original_hash',
      'source',
    );
  if (!row) return;
  const store = audioStore(id);
  await store.discard();
  const lease = keepLease(db, 'intake', id, logger);
  try {
    const older = await olderMix(db, row.track_id, row.number);
    const data: IntakeData = { id, originalHash: row.original_hash, source: row.source, older };
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
      const taken = await trx('mixes').where({ id, status: 'analysing' }).update(ready);
      // The newest mix is the one that is worked on, until an older one is chosen again.
      if (taken > 0) await trx('tracks').where({ id: row.track_id }).update({ mix_id: null });
    });
  } catch (error) {
    if (lease.signal.aborted) return;
    if (!(error instanceof FinalProblem)) logger.error({ err: error, mix: id }, 'intake failed');
    const refusal =
      error instanceof FinalProblem
        ? error.message
        : 'The file could not be analysed, through no fault of yours. Put it in once more.';
    // The original is let go of with the row's reference to it; the sweep removes the file.
    await db('mixes').where({ id, status: 'analysing' }).update({ status: 'refused', refusal, original_hash: null });
  } finally {
    lease.end();
    await store.discard();
  }
}
