import type { Knex } from 'knex';
import type { Logger } from 'pino';
import type { Source } from '../../codecs/probe';
import type { TakenIn } from '../../intake/take-in';
import { audioStore } from '../../store/audio-store';
import { claim, keepLease } from '../lease';
import { FinalProblem, runInThread } from '../thread';
import type { IntakeData } from '../threads/intake';

/** Makes a mix's working file and findings; a mix that turns out unusable is marked as refused, with the reason. */
export async function intakeTask(db: Knex, logger: Logger, id: string): Promise<void> {
  if (!(await claim(db, 'intake', id))) return;
  const row = await db('mixes')
    .where({ id })
    .first<{ original_hash: string; source: Source } | undefined>('original_hash', 'source');
  if (!row) return;
  const store = audioStore(id);
  await store.discard();
  const lease = keepLease(db, 'intake', id, logger);
  try {
    const data: IntakeData = { id, originalHash: row.original_hash, source: row.source };
    const { workingHash, workingFormat, report } = await runInThread<TakenIn>(
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
    };
    await db('mixes').where({ id, status: 'analysing' }).update(ready);
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
