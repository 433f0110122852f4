import { Logger, run, type LogFunctionFactory, type LogLevel, type Runner } from 'graphile-worker';
import pg from 'pg';
import { z } from 'zod';
import { getConfig } from '../config';
import { connect } from '../database/connection';
import { log } from '../log';
import { audioStore } from '../store/audio-store';
import { referencedFiles } from '../store/references';
import { recoverAbandoned } from './lease';
import { deliverTask } from './tasks/deliver';
import { intakeTask } from './tasks/intake';

const RECOVER_MS = 5_000;
const SWEEP_MS = 10 * 60_000;
const payload = z.object({ id: z.uuid() });

/** The queue's own messages as lines of our log. */
const queueLog: LogFunctionFactory = (scope) => (level, message, meta) => {
  const levels: Record<`${LogLevel}`, 'error' | 'warn' | 'debug'> = {
    error: 'error',
    warning: 'warn',
    info: 'debug',
    debug: 'debug',
  };
  log()[levels[level]]({ ...scope, ...meta }, message);
};

/** Takes jobs from the queue until it is told to stop; any number of these may run against one database and store. */
async function main(): Promise<void> {
  const { databaseUrl } = getConfig();
  const db = connect(databaseUrl);
  const pool = new pg.Pool({ connectionString: databaseUrl, max: 4 });
  const lost = (error: Error) => log().warn({ err: error }, 'database connection lost');
  pool.on('error', lost);
  pool.on('connect', (client) => client.on('error', lost));

  let runner: Runner | null = null;
  const startRunner = async (): Promise<void> => {
    runner = await run({
      pgPool: pool,
      concurrency: 1,
      pollInterval: 1000,
      crontab: '',
      logger: new Logger(queueLog),
      noHandleSignals: true,
      taskList: {
        intake: async (data) => intakeTask(db, log(), payload.parse(data).id),
        deliver: async (data) => deliverTask(db, log(), payload.parse(data).id),
      },
    });
    // A runner gives up when the database goes away for good; a new one waits for its return.
    runner.promise
      .catch((error: unknown) => log().warn({ err: error }, 'job runner stopped'))
      .finally(() => void restart());
  };
  let stopping = false;
  const restart = async (): Promise<void> => {
    while (!stopping) {
      try {
        return await startRunner();
      } catch (error) {
        log().warn({ err: error }, 'waiting for the database');
        await new Promise((resolve) => setTimeout(resolve, 1000));
      }
    }
  };
  await restart();

  const quietly = (work: () => Promise<unknown>) => () =>
    void work().catch((error: unknown) => log().warn({ err: error }, 'upkeep failed'));
  const recover = quietly(() => recoverAbandoned(db, log()));
  const sweep = quietly(async () => audioStore().sweep(await referencedFiles(db)));
  recover();
  sweep();
  const timers = [setInterval(recover, RECOVER_MS), setInterval(sweep, SWEEP_MS)];

  const stop = async () => {
    if (stopping) return;
    stopping = true;
    timers.forEach(clearInterval);
    setTimeout(() => process.exit(0), 3000).unref();
    await runner?.stop().catch(() => {});
    process.exit(0);
  };
  process.on('SIGTERM', () => void stop());
  process.on('SIGINT', () => void stop());
  log().info('worker is waiting for jobs');
}

await main();
