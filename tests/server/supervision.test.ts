import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { chmodSync, existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { until } from '../support/application';

const PORT = 3488;
const DATABASE_PORT = 5488;
const folder = mkdtempSync(path.join(os.tmpdir(), 'copper-supervision-'));
chmodSync(folder, 0o755);
const env = {
  ...process.env,
  COPPER_DATA: folder,
  COPPER_PORT: String(PORT),
  COPPER_DATABASE_PORT: String(DATABASE_PORT),
  COPPER_DEMO: 'no',
  COPPER_LOG_LEVEL: 'silent',
  COPPER_PATIENCE_MS: '2000',
  DATABASE_URL: '',
};
let start: ChildProcess;
let said = '';

/** Runs ./start as a user would. */
function begin(): void {
  said = '';
  start = spawn('./start', { env, stdio: ['ignore', 'pipe', 'pipe'] });
  start.stdout!.on('data', (text: Buffer) => (said += text.toString()));
  start.stderr!.on('data', (text: Buffer) => (said += text.toString()));
}

const gone = (child: ChildProcess) =>
  child.exitCode !== null || child.signalCode !== null
    ? Promise.resolve()
    : new Promise((resolve) => child.once('exit', resolve));
/** The number in the first line of a file; null while it is being written. */
function numberIn(...place: string[]): number | null {
  try {
    return Number(readFileSync(path.join(folder, ...place), 'utf8').split('\n')[0]) || null;
  } catch {
    return null;
  }
}
const number = (name: string) => numberIn(`${name}.pid`)!;
const another = (before: number, now: () => number | null) =>
  until(
    'there is another',
    () => {
      const found = now();
      return Promise.resolve(found !== null && found !== before);
    },
    30_000,
  );
const health = () =>
  fetch(`http://127.0.0.1:${PORT}/api/health`)
    .then(async (response) => (await response.json()) as Record<string, boolean>)
    .catch(() => null);
const well = (ms?: number) =>
  until(
    'everything is well',
    async () => {
      const found = await health();
      return found !== null && Object.values(found).every(Boolean);
    },
    ms,
  );

beforeAll(async () => {
  begin();
  await until('it says that it is ready', () => Promise.resolve(said.includes('Copper Lane is ready')), 120_000);
  await well();
});
afterAll(async () => {
  start.kill('SIGTERM');
  await gone(start);
  spawnSync('scripts/cluster', ['stop', path.join(folder, 'postgresql')]);
  rmSync(folder, { recursive: true, force: true });
});

test.each(['server', 'worker'])('a %s that dies is started again', async (name) => {
  const before = number(name);
  process.kill(before, 'SIGKILL');
  await another(before, () => number(name));
  await well();
});

test('a server that hangs is started again', async () => {
  const before = number('server');
  process.kill(before, 'SIGSTOP');
  await another(before, () => number('server'));
  await well();
  expect(said).toContain('does not answer and is started again');
});

test('on a busy machine a server that dies comes back, and is left to start', async () => {
  said = '';
  const loops = Array.from({ length: os.cpus().length * 2 }, () =>
    spawn('nice', ['-n', '10', process.execPath, '-e', 'for (;;);'], { stdio: 'ignore' }),
  );
  try {
    for (let i = 0; i < 3; i++) {
      const before = number('server');
      process.kill(before, 'SIGKILL');
      await another(before, () => number('server'));
      await well(30_000);
    }
  } finally {
    for (const loop of loops) loop.kill('SIGKILL');
  }
  expect(said).not.toContain('does not answer');
});

test('liveness answers without asking anything else', async () => {
  const worker = number('worker');
  process.kill(worker, 'SIGSTOP');
  const answer = await fetch(`http://127.0.0.1:${PORT}/api/health/live`);
  expect([answer.status, await answer.text()]).toEqual([204, '']);
  process.kill(worker, 'SIGCONT');
});

test('PostgreSQL that dies is started again', async () => {
  const pid = () => numberIn('postgresql', 'cluster', 'postmaster.pid');
  const before = pid()!;
  process.kill(before, 'SIGKILL');
  await another(before, pid);
  await well();
});

test('health says when no worker is there', async () => {
  const worker = number('worker');
  process.kill(worker, 'SIGSTOP');
  await until('it is missed', async () => (await health())?.worker === false, 30_000);
  process.kill(worker, 'SIGCONT');
  await well();
});

test('a second start from the same folder is refused; after the first was killed, a new one takes over', async () => {
  const second = spawnSync('./start', { env, encoding: 'utf8' });
  expect([second.status, second.stderr]).toEqual([1, expect.stringContaining('already running')]);
  const before = number('server');
  start.kill('SIGKILL');
  await gone(start);
  expect((await health())?.database).toBe(true);
  begin();
  await until('it says that it is ready', () => Promise.resolve(said.includes('Copper Lane is ready')), 60_000);
  expect(said).toContain('Taking over');
  expect(number('server')).not.toBe(before);
  await well();
});

test('a start that is killed while it prepares holds up no other; nor does PostgreSQL that ends meanwhile', async () => {
  start.kill('SIGTERM');
  await gone(start);
  begin();
  await until('it prepares', () => Promise.resolve(said.includes('Starting PostgreSQL')));
  start.kill('SIGKILL');
  await gone(start);
  begin();
  const pid = await until('PostgreSQL runs', () =>
    Promise.resolve(numberIn('postgresql', 'cluster', 'postmaster.pid')),
  );
  process.kill(pid, 'SIGKILL');
  await until('it says that it is ready', () => Promise.resolve(said.includes('Copper Lane is ready')), 60_000);
  await well();
});

test('stopping is orderly and leaves nothing running', async () => {
  const [server, worker] = [number('server'), number('worker')];
  start.kill('SIGTERM');
  await gone(start);
  for (const pid of [server, worker]) expect(existsSync(`/proc/${pid}`)).toBe(false);
  expect(await health()).toBeNull();
});
