import type { Knex } from 'knex';
import type { Logger } from 'pino';
import { parseLane } from '../../../core/lane/schema';
import type { IntakeReport } from '../../../core/measure/intake-report';
import { impulsesOf } from '../../impulses/impulses';
import type { MadeMeasurement } from '../../measurements/measure-lane';
import { claim, claimed, keepLease } from '../lease';
import { FinalProblem, runInThread } from '../thread';
import type { MeasureData } from '../threads/measure';

interface MeasureRow {
  lane: unknown;
  key: string;
  workingHash: string | null;
  sampleRate: number;
  findings: IntakeReport | null;
  accountId: string;
}

/** The mix and its master are in memory as floats: of longer ones a worker would run out of it. */
const MOST_FRAMES = 60_000_000;
const TOO_LONG = 'This track is too long to be measured on the server. Open it to measure it.';

/** Measures a lane over a whole mix and keeps the result. */
export async function measureTask(db: Knex, logger: Logger, id: string): Promise<void> {
  const held = await claim(db, 'measure', id);
  if (!held) return;
  const row = await db('measurements as x')
    .join('mixes as m', 'm.id', 'x.mix_id')
    .join('tracks as t', 't.id', 'm.track_id')
    .join('releases as r', 'r.id', 't.release_id')
    .where('x.id', id)
    .first<MeasureRow | undefined>(
      ...['x.lane', 'x.key', 'm.working_hash as workingHash', 'm.sample_rate as sampleRate', 'm.findings'],
      'r.account_id as accountId',
    );
  if (!row?.workingHash || !row.findings) return;
  const { key, workingHash, sampleRate } = row;
  const { frames, loudest } = row.findings;
  if (frames > MOST_FRAMES) {
    await claimed(db, held).update({ status: 'failed', problem: TOO_LONG });
    return;
  }
  const lane = parseLane(row.lane);
  const lease = keepLease(db, held, logger);
  try {
    const impulses = await impulsesOf(db, row.accountId, lane);
    const data: MeasureData = { key, lane, workingHash, sampleRate, frames, loudest, impulses };
    const { summary, bytes } = await runInThread<MadeMeasurement>('measure', data, lease.progress, lease.signal);
    await claimed(db, held).update({
      status: 'finished',
      progress: 1,
      summary: JSON.stringify(summary),
      data: bytes && Buffer.from(bytes),
    });
  } catch (error) {
    if (lease.signal.aborted) return;
    logger.error({ err: error, measurement: id }, 'measuring failed');
    const problem =
      error instanceof FinalProblem ? error.message : 'The track could not be measured here. Open it to measure it.';
    await claimed(db, held).update({ status: 'failed', problem });
  } finally {
    lease.end();
  }
}
