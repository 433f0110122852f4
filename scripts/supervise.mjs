// Keeps server, worker and PostgreSQL running: starts each again when it has died, and the server also when it has stopped
// answering. Ends them all, in order, when it is told to stop. It knows nothing of the application but how to start it.
import { spawn, spawnSync } from 'node:child_process';
import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import http from 'node:http';
import path from 'node:path';

const data = process.env.COPPER_DATA;
const port = Number(process.env.COPPER_PORT);
const clusterPort = process.env.COPPER_OWN_CLUSTER_PORT;
const CHECK_MS = 1000;
/** An answer of the server may take this long; after several that did not come it is started again. */
const ANSWER_MS = 5000;
const SILENT_MOST = 4;
const STOP_MS = 9000;

const say = (words) => console.log(`\n== ${words}`);
const programs = {
  server: { file: 'dist/serve.js', child: null },
  worker: { file: 'dist/jobs/worker.js', child: null },
};
let stopping = false;

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
  process.kill(pid, 'SIGTERM');
  const end = Date.now() + STOP_MS;
  while (runs(pid, file)) {
    if (Date.now() > end) process.kill(pid, 'SIGKILL');
    Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 100);
  }
}

function begin(name) {
  const program = programs[name];
  const child = spawn(process.execPath, [path.resolve(program.file)], { stdio: ['ignore', 'inherit', 'inherit'] });
  program.child = child;
  writeFileSync(note(name), String(child.pid));
  child.on('exit', (status, signal) => {
    if (program.child === child) program.child = null;
    if (!stopping) say(`The ${name} ended (${signal ?? status}) and is started again`);
  });
}

function answers() {
  return new Promise((resolve) => {
    const request = http.get({ host: '127.0.0.1', port, path: '/api/health', timeout: ANSWER_MS }, (response) => {
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
let silent = 0;
for (;;) {
  await new Promise((resolve) => setTimeout(resolve, CHECK_MS));
  if (stopping) continue;
  if (clusterPort && !cluster('status', clusterFolder)) {
    say('PostgreSQL ended and is started again');
    cluster('start', clusterFolder, clusterPort);
  }
  for (const [name, { child }] of Object.entries(programs)) if (!child) begin(name);
  if (await answers()) {
    silent = 0;
    if (!ready) console.log(`\n   Copper Lane is ready: http://127.0.0.1:${port}   (Ctrl-C stops it)\n`);
    ready = true;
  } else if (ready && ++silent >= SILENT_MOST) {
    say('The server does not answer and is started again');
    programs.server.child?.kill('SIGKILL');
    silent = 0;
  }
}
