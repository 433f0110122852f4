import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { until } from '../support/application';
import { Supervised } from '../support/supervised';

const installation = new Supervised({
  COPPER_DEMO: 'no',
  COPPER_LOG_LEVEL: 'silent',
  COPPER_PATIENCE_MS: '2000',
  COPPER_LEASE_S: '5',
});
const postgresql = () => installation.numberIn('postgresql', 'cluster', 'postmaster.pid');

beforeAll(async () => {
  await installation.settle();
  installation.begin();
  await installation.ready(120_000);
  await installation.well();
});
afterAll(() => installation.remove());

test.each(['server', 'worker'] as const)('a %s that dies is started again', async (name) => {
  const before = installation.process(name);
  process.kill(before, 'SIGKILL');
  await installation.another(before, () => installation.process(name));
  await installation.well();
});

test('a server that hangs is started again', async () => {
  const before = installation.process('server');
  process.kill(before, 'SIGSTOP');
  await installation.another(before, () => installation.process('server'));
  await installation.well();
  expect(installation.said).toContain('does not answer and is started again');
});

test('on a busy machine a server that dies comes back, and is left to start', async () => {
  await expect(installation.restartUnderLoad(3)).resolves.toBeUndefined();
});

test('liveness answers without asking anything else', async () => {
  const worker = installation.process('worker');
  process.kill(worker, 'SIGSTOP');
  const answer = await fetch(`${installation.url}/api/health/live`);
  expect([answer.status, await answer.text()]).toEqual([204, '']);
  process.kill(worker, 'SIGCONT');
});

test('PostgreSQL that dies is started again', async () => {
  const before = postgresql()!;
  process.kill(before, 'SIGKILL');
  await installation.another(before, postgresql);
  await installation.well();
});

test('health says when no worker is there', async () => {
  const worker = installation.process('worker');
  process.kill(worker, 'SIGSTOP');
  await until('it is missed', async () => (await installation.health())?.worker === false, 30_000);
  process.kill(worker, 'SIGCONT');
  await installation.well();
});

test('a second start from the same folder is refused; after the first was killed, a new one takes over', async () => {
  const second = spawnSync('./start', { env: installation.env, encoding: 'utf8' });
  expect([second.status, second.stderr]).toEqual([1, expect.stringContaining('already running')]);
  const before = installation.process('server');
  await installation.end('SIGKILL');
  expect((await installation.health())?.database).toBe(true);
  installation.begin();
  await installation.ready();
  expect(installation.said).toContain('Taking over');
  expect(installation.process('server')).not.toBe(before);
  await installation.well();
});

test('a start that is killed while it prepares holds up no other; nor does PostgreSQL that ends meanwhile', async () => {
  await installation.end('SIGTERM');
  installation.begin();
  await until('it prepares', () => Promise.resolve(installation.said.includes('Starting PostgreSQL')));
  await installation.end('SIGKILL');
  installation.begin();
  const pid = await until('PostgreSQL runs', () => Promise.resolve(postgresql()));
  process.kill(pid, 'SIGKILL');
  await installation.ready();
  await installation.well();
});

test('stopping is orderly and leaves nothing running', async () => {
  const [server, worker] = [installation.process('server'), installation.process('worker')];
  await installation.end('SIGTERM');
  for (const pid of [server, worker]) expect(existsSync(`/proc/${pid}`)).toBe(false);
  expect(await installation.health()).toBeNull();
});
