import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';

const before = process.env;
let folder: string;
beforeEach(() => {
  jest.resetModules();
  folder = mkdtempSync(path.join(os.tmpdir(), 'copper-config-'));
});
afterEach(() => {
  process.env = before;
  rmSync(folder, { recursive: true });
});

/** The settings that an environment gives. */
async function configOf(env: Record<string, string>) {
  process.env = { NODE_ENV: 'test', DATABASE_URL: 'postgres://copper@127.0.0.1/x', COPPER_DATA: folder, ...env };
  return (await import('./config')).getConfig();
}

test('defaults stand where nothing is given', async () => {
  expect(await configOf({})).toMatchObject({
    quotaBytes: 500e9,
    demo: true,
    maxUploadBytes: 2048 * 1048576,
    secureCookie: false,
    dataFolder: folder,
  });
});

test.each([
  [{ DATABASE_URL: 'mysql://x' }, /DATABASE_URL must be a PostgreSQL address/],
  [{ COPPER_SESSION_SECRET: 'short' }, /at least 32 characters/],
  [{ COPPER_MAX_UPLOAD_MB: '9999' }, /COPPER_MAX_UPLOAD_MB/],
  [{ COPPER_LOG_LEVEL: 'loud' }, /COPPER_LOG_LEVEL/],
  [{ COPPER_QUOTA_GB: '0' }, /COPPER_QUOTA_GB/],
  [{ COPPER_PROXIES: '-1' }, /COPPER_PROXIES/],
])('%p is refused with a sentence', async (env, words) => {
  await expect(configOf(env)).rejects.toThrow(words);
});

test('the session secret comes from the environment or from the file that the start makes', async () => {
  const given = 'x'.repeat(40);
  expect((await configOf({ COPPER_SESSION_SECRET: given })).sessionSecret).toBe(given);
  jest.resetModules();
  const missing = await configOf({});
  expect(() => missing.sessionSecret).toThrow(/run .\/start, which makes one/);
  writeFileSync(path.join(folder, 'session-secret'), `${'y'.repeat(40)}\n`);
  expect(missing.sessionSecret).toBe('y'.repeat(40));
});
