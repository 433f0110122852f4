import { existsSync, mkdtempSync, readdirSync, rmSync, writeFileSync, readFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { Application } from '../support/application';
import { newClient, testDatabase } from '../support/client';
import { music } from '../support/music';
import { wave } from '../support/wave';

const application = new Application({ env: { COPPER_QUOTA_GB: '0.001' } });
let folder: string;
beforeAll(async () => {
  await application.start();
  folder = mkdtempSync(path.join(os.tmpdir(), 'copper-backup-'));
});
afterAll(async () => {
  await application.stop();
  rmSync(folder, { recursive: true });
});

/** Every row of every table of a database, as text. */
async function rows(databaseUrl: string): Promise<Record<string, string[]>> {
  const db = testDatabase(databaseUrl);
  const tables = await db('information_schema.tables')
    .where({ table_schema: 'public', table_type: 'BASE TABLE' })
    // Workers come and go, and throttles pass.
    .whereNotIn('table_name', ['workers', 'throttles'])
    .pluck<string[]>('table_name');
  const all: Record<string, string[]> = {};
  for (const table of tables.sort()) {
    const { rows: found } = await db.raw<{ rows: { row: string }[] }>('select x::text as row from ?? x order by 1', [
      table,
    ]);
    all[table] = found.map(({ row }) => row);
  }
  await db.destroy();
  return all;
}

async function database(name: string): Promise<string> {
  const db = testDatabase(application.databaseUrl);
  await db.raw('create database ??', [name]);
  await db.destroy();
  return application.databaseUrl.replace(/\/[^/]*$/, `/${name}`);
}

test('a backup restored into an empty place has every row and every file', async () => {
  const client = await newClient(application.url, application.databaseUrl);
  await client.takeIn(await client.newRelease('Kept'), 'mix.wav', wave(music(1, 44100), 44100));
  const target = path.join(folder, 'first');
  expect(application.command('backup', [target])).toMatch(/the database and 2 audio files/);
  expect(() => application.command('backup', [target])).toThrow(/already exists/);

  const databaseUrl = await database('restored');
  const data = path.join(folder, 'data');
  const env = { DATABASE_URL: databaseUrl, COPPER_DATA: data };
  expect(application.command('restore', [target], { env })).toMatch(/Restored/);
  expect(await rows(databaseUrl)).toEqual(await rows(application.databaseUrl));
  const files = readdirSync(path.join(target, 'files'));
  expect(files).toHaveLength(2);
  for (const hash of files) {
    const stored = path.join('audio', 'files', hash.slice(0, 2), hash);
    expect(readFileSync(path.join(data, stored)).equals(readFileSync(path.join(application.folder, stored)))).toBe(
      true,
    );
  }
  expect(application.command('store', ['check'], { env })).toContain('"whole":2,"damaged":0,"missing":0');
  expect(() => application.command('restore', [target], { env })).toThrow(/not empty/);
});

test('a damaged backup is refused before anything is written', async () => {
  const target = path.join(folder, 'second');
  application.command('backup', [target]);
  const [hash] = readdirSync(path.join(target, 'files'));
  writeFileSync(path.join(target, 'files', hash), 'something else');
  const data = path.join(folder, 'elsewhere');
  const env = { DATABASE_URL: await database('untouched'), COPPER_DATA: data };
  expect(() => application.command('restore', [target], { env })).toThrow(/is not what it was/);
  expect(existsSync(path.join(data, 'audio', 'files'))).toBe(false);
  expect(() => application.command('restore', [folder], { env })).toThrow(/is not a backup/);
});

test('an account has a quota, and is told when it is reached', async () => {
  const client = await newClient(application.url, application.databaseUrl);
  const { status, body } = await client.send(await client.newRelease(), 'large.wav', wave(music(5, 44100), 44100));
  expect([status, body.error]).toEqual([413, expect.stringMatching(/0\.00 GB of room|Remove tracks/)]);
});

test('an operator adds accounts and resets passwords, which ends the sessions', async () => {
  const email = 'added@example.com';
  const said = application.command('account', ['add', email], { input: '' });
  const password = /Its password: (\S+)/.exec(said)![1];
  const client = await newClient(application.url, application.databaseUrl);
  const enter = (given: string) => client.ask('POST', '/api/session', { email, password: given });
  expect((await enter(password)).status).toBe(200);
  expect(() => application.command('account', ['add', email], { input: '' })).toThrow(/already/);
  application.command('account', ['reset', email], { input: 'another long password\n' });
  expect((await client.ask('GET', '/api/releases')).status).toBe(401);
  expect((await enter('another long password')).status).toBe(200);
  expect(() => application.command('account', ['add', 'x'], { input: '' })).toThrow(/e-mail address/);
});

test('the demo stays away once it is removed, and where it is not wanted', async () => {
  const db = testDatabase(application.databaseUrl);
  const demos = async () => (await db('accounts').where({ demo: true }).select('id')).length;
  await db('accounts').insert({ email: 'demo@copperlane.example', name: 'Demo', password_hash: 'x', demo: true });
  application.command('demo', ['remove']);
  expect(await demos()).toBe(0);
  application.command('seed');
  expect(await demos()).toBe(0);
  application.command('demo', ['restore']);
  application.command('seed', [], { env: { COPPER_DEMO: 'no' } });
  expect(await demos()).toBe(0);
  await db.destroy();
});
