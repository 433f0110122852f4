import type { Knex } from 'knex';
import type { Logger } from 'pino';
import type { ReferenceReport } from '../../../contracts/reference';
import type { ReferenceSource } from '../../codecs/probe';
import { claim, claimed, keepLease } from '../lease';
import { FinalProblem, runInThread } from '../thread';
import type { ReferenceData } from '../threads/reference';

/** Measures a reference; one that can't be used is marked as refused, with the reason. */
export async function referenceTask(db: Knex, logger: Logger, id: string): Promise<void> {
  const held = await claim(db, 'reference', id);
  if (!held) return;
  const row = await db('reference_tracks')
    .where({ id })
    .first<{ file_hash: string; source: ReferenceSource } | undefined>('file_hash', 'source');
  if (!row) return;
  const lease = keepLease(db, held, logger);
  try {
    const data: ReferenceData = { hash: row.file_hash, source: row.source };
    const report = await runInThread<ReferenceReport>('reference', data, lease.progress, lease.signal);
    await claimed(db, held).update({ status: 'ready', progress: 1, report: JSON.stringify(report) });
  } catch (error) {
    if (lease.signal.aborted) return;
    if (!(error instanceof FinalProblem)) logger.error({ err: error, reference: id }, 'measuring a reference failed');
    const refusal =
      error instanceof FinalProblem
        ? error.message
        : 'Something went wrong on our side, and the file could not be measured. Upload it again.';
    await claimed(db, held).update({ status: 'refused', refusal });
  } finally {
    lease.end();
  }
}
