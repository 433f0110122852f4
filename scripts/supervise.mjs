// Keeps server, worker and PostgreSQL running: starts each again when it has died, and the server also when it neither answers
// nor works. Ends them all, in order, when it is told to stop. It knows nothing of the application but how to start it.
import { spawn, spawnSync } from 'node:child_process';
import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import http from 'node:http';
import path from 'node:path';
import { Patience } from './patience.mjs';

const data = process.env.COPPER_DATA;
const port = Number(process.env.COPPER_PORT);
const clusterPort = process.env.COPPER_OWN_CLUSTER_PORT;
const CHECK_MS = 1000;
/** An answer of the server may take this long; what a late one means is decided by its patience. */
const ANSWER_MS = 5000;
const STOP_MS = 9000;

const say = (words) => console.log(`\n== ${words}`);
const programs = {
  server: { file: 'dist/serve.js', child: null },
  worker: { file: 'dist/jobs/worker.js', child: null },
};
let stopping = false;
const patience = new Patience();

function note(name) {
  return path.join(data, `${name}.pid`);
}

/** Whether a process of this number runs this program: numbers are given to others after a while. */
function runs(pid, file) {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').split('\0').includes(path.resolve(file));
  } catch {
    return false;
  }
}

/** Tells a process something, if it is still there. */
function signal(pid, name) {
  try {
    process.kill(pid, name);
  } catch (error) {
    if (error.code !== 'ESRCH') throw error;
  }
}

/** State and processor time of the main thread of a process; null when it is gone. */
function threadOf(pid) {
  try {
    // The name in brackets may hold anything.
    const fields = readFileSync(`/proc/${pid}/task/${pid}/stat`, 'utf8').split(') ').at(-1).split(' ');
    return { state: fields[0], ticks: Number(fields[11]) + Number(fields[12]) };
  } catch {
    return null;
  }
}

/** Ends what an earlier start left running when it was killed. */
function takeOver(name) {
  let pid = 0;
  try {
    pid = Number(readFileSync(note(name), 'utf8'));
  } catch {
    return;
  }
  const { file } = programs[name];
  if (!pid || !runs(pid, file)) return;
  say(`Taking over from an earlier start: ending its ${name}`);
  signal(pid, 'SIGTERM');
  const end = Date.now() + STOP_MS;
  while (runs(pid, file)) {
    if (Date.now() > end) signal(pid, 'SIGKILL');
    Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 100);
  }
}

function begin(name) {
  const program = programs[name];
  const child = spawn(process.execPath, [path.resolve(program.file)], { stdio: ['ignore', 'inherit', 'inherit'] });
  program.child = child;
  writeFileSync(note(name), String(child.pid));
  if (name === 'server') patience.started(performance.now());
  child.on('exit', (status, signal) => {
    if (program.child === child) program.child = null;
    if (!stopping) say(`The ${name} ended (${signal ?? status}) and is started again`);
  });
}

function answers() {
  return new Promise((resolve) => {
    const request = http.get({ host: '127.0.0.1', port, path: '/api/health/live', timeout: ANSWER_MS }, (response) => {
      response.resume();
      resolve(true);
    });
    request.on('timeout', () => request.destroy());
    request.on('error', () => resolve(false));
  });
}

function cluster(...args) {
  const { status } = spawnSync('scripts/cluster', args, { stdio: ['ignore', 'ignore', 'inherit'] });
  return status === 0;
}

const clusterFolder = path.join(data, 'postgresql');
const postmaster =
  clusterPort && spawnSync('scripts/cluster', ['pid-file', clusterFolder], { encoding: 'utf8' }).stdout.trim();

/** Whether PostgreSQL runs, by its own note: asking its programs each second would cost more than all else here. */
function clusterRuns() {
  try {
    const pid = Number(readFileSync(postmaster, 'utf8').split('\n')[0]);
    return pid > 0 && !['Z', 'X', undefined].includes(threadOf(pid)?.state);
  } catch {
    return false;
  }
}

async function stop() {
  if (stopping) return;
  stopping = true;
  console.log('\nStopping.');
  const children = Object.values(programs).flatMap(({ child }) => child ?? []);
  const gone = children.map((child) => new Promise((resolve) => child.once('exit', resolve)));
  for (const child of children) child.kill('SIGTERM');
  const late = setTimeout(() => children.forEach((child) => child.kill('SIGKILL')), STOP_MS);
  await Promise.all(gone);
  clearTimeout(late);
  for (const name of Object.keys(programs)) rmSync(note(name), { force: true });
  if (clusterPort) cluster('stop', clusterFolder);
  process.exit(0);
}
process.on('SIGTERM', stop);
process.on('SIGINT', stop);

Object.keys(programs).forEach(takeOver);
Object.keys(programs).forEach(begin);
let ready = false;
let ticks = 0;
for (;;) {
  await new Promise((resolve) => setTimeout(resolve, CHECK_MS));
  if (stopping) continue;
  if (clusterPort && !clusterRuns()) {
    say('PostgreSQL ended and is started again');
    cluster('start', clusterFolder, clusterPort);
  }
  for (const [name, { child }] of Object.entries(programs)) if (!child) begin(name);
  const now = () => performance.now();
  if (await answers()) {
    patience.answered(now());
    if (!ready) console.log(`\n   Copper Lane is ready: http://127.0.0.1:${port}   (Ctrl-C stops it)\n`);
    ready = true;
    continue;
  }
  const { child } = programs.server;
  const thread = child && threadOf(child.pid);
  if (!thread) continue;
  // Running, waiting for a core or for the disk, or further than at the last look.
  if (['R', 'D'].includes(thread.state) || thread.ticks !== ticks) patience.worked(now());
  ticks = thread.ticks;
  if (!patience.isOver(now())) continue;
  say('The server does not answer and is started again');
  child.kill('SIGKILL');
}
