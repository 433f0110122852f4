import { spawnSync } from 'node:child_process';
import { chmodSync, existsSync, mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import os from 'node:os';
import path from 'node:path';
import { freePort } from '../support/application';
import { testDatabase } from '../support/client';

let folder: string;
let port: string;
beforeAll(async () => {
  port = String(await freePort());
  folder = mkdtempSync(path.join(os.tmpdir(), 'copper-cluster-'));
  chmodSync(folder, 0o755);
});
afterAll(() => {
  cluster('stop');
  rmSync(folder, { recursive: true });
});

function cluster(action: string, at?: string) {
  const args = [action, path.join(folder, 'pg'), ...(at ? [at] : [])];
  return spawnSync('scripts/cluster', args, { encoding: 'utf8', env: { ...process.env, COPPER_CLUSTER: '' } });
}

async function answers(address: string): Promise<boolean> {
  const db = testDatabase(address.trim());
  try {
    await db.raw('select 1');
    return true;
  } finally {
    await db.destroy();
  }
}

test('a port that another program holds is named, with what to do', async () => {
  const other = createServer().listen(Number(port), '127.0.0.1');
  await new Promise((resolve) => other.once('listening', resolve));
  const { status, stderr } = cluster('start', port);
  expect(status).toBe(1);
  expect(stderr).toContain(`Port ${port} on 127.0.0.1 is taken by another program`);
  await new Promise((resolve) => other.close(resolve));
});

test('starting twice gives the same running cluster, and it can be stopped and started again', async () => {
  const first = cluster('start', port);
  expect(first.status).toBe(0);
  expect(await answers(first.stdout)).toBe(true);
  expect(cluster('start', port).stdout).toBe(first.stdout);
  expect(cluster('stop').status).toBe(0);
  expect(cluster('stop').status).toBe(0);
  const again = cluster('start', port);
  expect(again.stdout).toBe(first.stdout);
  expect(await answers(again.stdout)).toBe(true);
});

test('what an interrupted first start left half made is made anew', () => {
  cluster('stop');
  rmSync(path.join(folder, 'pg', 'cluster'), { recursive: true });
  mkdirSync(path.join(folder, 'pg', 'making'));
  expect(cluster('start', port).status).toBe(0);
  expect(existsSync(path.join(folder, 'pg', 'making'))).toBe(false);
});
