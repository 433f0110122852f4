import { randomUUID } from 'node:crypto';
import os from 'node:os';
import { Logger, run, type LogFunctionFactory, type LogLevel, type Runner, type TaskList } from 'graphile-worker';
import pg from 'pg';
import { z } from 'zod';
import { forgetOldAttempts } from '../accounts/throttle';
import { getConfig } from '../config';
import { connect } from '../database/connection';
import { isDatabaseLost } from '../failures';
import { log } from '../log';
import { AudioStore, storeFolder } from '../store/audio-store';
import { BackgroundCheck } from '../store/check';
import { matchStore, requireMatchingStore } from '../store/identity';
import { removeKept } from '../store/kept-work';
import { referencedFiles } from '../store/references';
import { sweep } from '../store/sweep';
import { forgetStaleUploads } from '../uploads';
import { LaneRuns, removeAbandonedRuns } from './lane-runs';
import { recoverAbandoned, releaseAll, unfinishedWork } from './lease';
import { deliverTask } from './tasks/deliver';
import { encodeTask } from './tasks/encode';
import { imageTask } from './tasks/image';
import { intakeTask } from './tasks/intake';
import { listeningTask } from './tasks/listening';
import { measureTask } from './tasks/measure';
import { referenceTask } from './tasks/reference';
import { reportWorker } from './workers';
import { purgeRemoved } from '../removed/removed';

const REPORT_MS = 2_000;
const SWEEP_MS = 10 * 60_000;
const CHECK_MS = 60_000;
/** Bytes hashed in one go: a second or two of one core in each minute. */
const CHECK_BYTES = 256 * 2 ** 20;
const STOP_MS = 8_000;
/** Deliveries at a time: each takes a core, and up to a few hundred MB. */
const MOST_DELIVERIES = 4;
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
  const pool = new pg.Pool({ connectionString: databaseUrl, max: 8 });
  const lost = (error: Error) => log().warn({ err: error }, 'database connection lost');
  pool.on('error', lost);
  pool.on('connect', (client) => client.on('error', lost));

  const store = new AudioStore(storeFolder());
  const timers: NodeJS.Timeout[] = [];
  const id = randomUUID();
  const runs = new LaneRuns(id);
  const runners = new Set<Runner>();
  const startRunner = async (taskList: TaskList, concurrency: number): Promise<void> => {
    const runner: Runner = await run({
      ...{ pgPool: pool, taskList, concurrency, pollInterval: 1000, crontab: '' },
      ...{ logger: new Logger(queueLog), noHandleSignals: true },
    });
    runners.add(runner);
    // A runner gives up when the database goes away for good; a new one waits for its return.
    runner.promise
      .catch((error: unknown) => log().warn({ err: error }, 'job runner stopped'))
      .finally(() => {
        runners.delete(runner);
        void restart(taskList, concurrency);
      });
  };
  let stopping = false;
  const restart = async (taskList: TaskList, concurrency: number): Promise<void> => {
    while (!stopping) {
      try {
        // Nothing is read, written or swept unless the folder is this database's store.
        await requireMatchingStore(db, store.folder);
        return await startRunner(taskList, concurrency);
      } catch (error) {
        log().error({ err: error }, 'no jobs are taken yet');
        await new Promise((resolve) => setTimeout(resolve, 1000));
      }
    }
  };
  const quietly = (work: () => Promise<unknown>) => () =>
    void work().catch((error: unknown) => log().warn({ err: error }, 'upkeep failed'));
  const stop = async () => {
    if (stopping) return;
    stopping = true;
    timers.forEach(clearInterval);
    setTimeout(() => process.exit(0), STOP_MS).unref();
    // Not awaited: they take no further job from here on, but wait for those that are given back below.
    for (const runner of runners) void runner.stop().catch(() => {});
    await releaseAll(db).catch((error: unknown) => log().warn({ err: error }, 'work was not given back'));
    await db('workers')
      .where({ id })
      .delete()
      .catch(() => {});
    process.exit(0);
  };
  // The queue does not wait until it has noted how a job ended. Without a database it can't; the job's row and lease decide.
  process.on('unhandledRejection', (error) => {
    if (!isDatabaseLost(error)) throw error;
    log().warn({ err: error }, 'the queue was not told how a job ended');
  });
  process.on('SIGTERM', () => void stop());
  process.on('SIGINT', () => void stop());
  // What somebody waits for in front of a screen has a place of its own: no batch and no link holds up an analysis.
  await restart(
    { deliver: async (data) => deliverTask(db, log(), runs, payload.parse(data).id) },
    Math.min(MOST_DELIVERIES, os.availableParallelism()),
  );
  await restart(
    {
      intake: async (data) => intakeTask(db, log(), payload.parse(data).id),
      reference: async (data) => referenceTask(db, log(), payload.parse(data).id),
    },
    1,
  );
  await restart(
    {
      encode: async (data) => encodeTask(db, log(), payload.parse(data).id),
      measure: async (data) => measureTask(db, log(), payload.parse(data).id),
    },
    1,
  );
  await restart(
    {
      listening: async (data) => listeningTask(db, log(), payload.parse(data).id),
      image: async (data) => imageTask(db, log(), payload.parse(data).id),
    },
    1,
  );

  const referenced = () => referencedFiles(db);
  const check = new BackgroundCheck(store, referenced, log());
  const report = quietly(() => reportWorker(db, id));
  const recover = quietly(() => recoverAbandoned(db, log()));
  const tidy = quietly(async () => {
    await matchStore(db, store.folder);
    await purgeRemoved(db, log());
    await removeAbandonedRuns(db, store, id);
    await removeKept(store, async () => {
      const unfinished = await unfinishedWork(db);
      return (work) => !unfinished.has(work);
    });
    await sweep(store, await referenced(), log());
    await forgetStaleUploads(db);
    await forgetOldAttempts(db);
  });
  [report, recover, tidy].forEach((each) => each());
  timers.push(
    setInterval(report, REPORT_MS),
    setInterval(recover, (1000 * getConfig().leaseSeconds) / 3),
    setInterval(tidy, SWEEP_MS),
    setInterval(
      quietly(() => check.next(CHECK_BYTES)),
      CHECK_MS,
    ),
  );
  log().info('worker is waiting for jobs');
}

await main();
