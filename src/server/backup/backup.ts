import { execFile } from 'node:child_process';
import { copyFile, mkdir, open, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { promisify } from 'node:util';
import type { Knex } from 'knex';
import { z } from 'zod';
import { hashFile, type AudioStore } from '../store/audio-store';
import { matchStore, readMark, writeMark } from '../store/identity';
import { referencedFiles } from '../store/references';
import { requireRoom } from '../store/room';
import { QUARANTINE } from '../store/sweep';

const run = promisify(execFile);
const DUMP = 'database.dump';
const MANIFEST = 'manifest.json';

/** What a backup holds; written last, so that a folder without it is no backup. */
const manifestSchema = z.object({
  schema: z.literal(1),
  installation: z.uuid(),
  madeAt: z.string(),
  dumpSha256: z.string().regex(/^[0-9a-f]{64}$/),
  files: z.array(z.string().regex(/^[0-9a-f]{64}$/)),
});
export type Manifest = z.infer<typeof manifestSchema>;

async function program(name: string): Promise<string> {
  const root = '/usr/lib/postgresql';
  const versions = (await readdir(root).catch(() => [])).sort((a, b) => Number(b) - Number(a));
  if (versions.length === 0)
    throw new Error('PostgreSQL’s programs are not installed: run ./start, or apt-get install postgresql.');
  return path.join(root, versions[0], 'bin', name);
}

/**
 * Writes database and audio into a folder. Stored files never change and are kept for days after nothing refers to
 * them, so those that the database refers to when it is dumped are all there to be copied after it. A folder that
 * exists is refused. What a failure leaves is removed; what a killed process left, with the name `….part`, by the next backup
 * to the same folder. Throws a Problem (507) when the disk of the folder has no room.
 */
export async function backUp(db: Knex, databaseUrl: string, store: AudioStore, target: string): Promise<Manifest> {
  await matchStore(db, store.folder);
  if (await stat(target).catch(() => null)) throw new Error(`${target} already exists. Choose a folder that does not.`);
  const part = `${target}.part`;
  await rm(part, { recursive: true, force: true });
  try {
    return await writeBackup(db, databaseUrl, store, part, target);
  } catch (error) {
    await rm(part, { recursive: true, force: true });
    throw error;
  }
}

async function writeBackup(
  db: Knex,
  databaseUrl: string,
  store: AudioStore,
  part: string,
  target: string,
): Promise<Manifest> {
  await mkdir(path.join(part, 'files'), { recursive: true, mode: 0o700 });
  const dump = path.join(part, DUMP);
  // The references are read from the very snapshot that is dumped.
  const files = await db.transaction(
    async (trx) => {
      const { rows } = await trx.raw<{ rows: { id: string }[] }>('select pg_export_snapshot() as id');
      const args = ['--format=custom', `--snapshot=${rows[0].id}`, `--file=${dump}`, `--dbname=${databaseUrl}`];
      await run(await program('pg_dump'), args);
      return [...(await referencedFiles(trx))].sort();
    },
    { isolationLevel: 'repeatable read', readOnly: true },
  );
  let bytes = 0;
  for (const hash of files) bytes += await store.size(hash).catch(() => 0);
  await requireRoom({ folder: part }, bytes);
  for (const hash of files) {
    const copy = path.join(part, 'files', hash);
    await copyFile(store.path(hash), copy).catch(() => copyFile(path.join(store.folder, QUARANTINE, hash), copy));
    if ((await hashFile(copy)) !== hash)
      throw new Error(
        `The stored file ${hash} is damaged. Restore it from an older backup, or remove what uses it, and back up again.`,
      );
  }
  const installation = await readMark(store.folder);
  const manifest = manifestSchema.parse({
    schema: 1,
    installation,
    madeAt: new Date().toISOString(),
    dumpSha256: await hashFile(dump),
    files,
  });
  await writeFile(path.join(part, MANIFEST), JSON.stringify(manifest), { flush: true });
  await rename(part, target);
  return manifest;
}

async function readManifest(source: string): Promise<Manifest> {
  const text = await readFile(path.join(source, MANIFEST), 'utf8').catch(() => {
    throw new Error(`${source} is not a backup: it has no ${MANIFEST}.`);
  });
  return manifestSchema.parse(JSON.parse(text));
}

/**
 * Fills an empty database and an empty store from a backup; the backup is checked before anything is written. Throws
 * when something is there already, or when the backup is not whole.
 */
export async function restore(db: Knex, databaseUrl: string, store: AudioStore, source: string): Promise<Manifest> {
  const manifest = await readManifest(source);
  const { rows } = await db.raw<{ rows: { count: number }[] }>(
    "select count(*)::int from information_schema.tables where table_schema = 'public'",
  );
  if (rows[0].count > 0) throw new Error('The database is not empty. Restore into a new one.');
  const there = await readdir(store.folder).catch(() => []);
  if (there.length > 0) throw new Error('The audio store is not empty. Restore into a new data folder.');
  const dump = path.join(source, DUMP);
  if ((await hashFile(dump)) !== manifest.dumpSha256)
    throw new Error('The backup is damaged: its database is not what was written.');
  for (const hash of manifest.files) {
    const found = await hashFile(path.join(source, 'files', hash)).catch(() => null);
    if (found !== hash)
      throw new Error(`The backup is damaged: its file ${hash} is ${found ? 'not what it was' : 'missing'}.`);
  }
  for (const hash of manifest.files) {
    const temporary = await store.temporary();
    await copyFile(path.join(source, 'files', hash), temporary);
    await store.adopt(temporary, hash);
  }
  await run(await program('pg_restore'), [
    '--exit-on-error',
    '--single-transaction',
    '--no-owner',
    `--dbname=${databaseUrl}`,
    dump,
  ]);
  await writeMark(store.folder, manifest.installation);
  const handle = await open(store.folder, 'r');
  await handle.sync();
  await handle.close();
  return manifest;
}
