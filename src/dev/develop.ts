import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { existsSync, watch } from 'node:fs';
import path from 'node:path';
import { createInterface } from 'node:readline';

// dev: database, worker and page for development, on their own ports and in their own folder. Each is reloaded when its
// sources change. Ctrl-C ends all of them.

const ROOT = path.join(import.meta.dirname, '../..');
const DATA = process.env.COPPER_DATA ?? 'data/dev';
const PORT = process.env.COPPER_PORT ?? '3410';
const DATABASE_PORT = process.env.COPPER_DATABASE_PORT ?? '5434';
const CLUSTER = path.join(DATA, 'postgresql');
const TSX = path.join(ROOT, 'node_modules/.bin/tsx');
const WORKER = 'dist/dev/jobs/worker.js';
/** Saving a file may touch it more than once. */
const SETTLE_MS = 100;

process.chdir(ROOT);
const children: ChildProcess[] = [];
const say = (who: string, words: string) => console.log(`${who.padEnd(9)}${words}`);

/** Runs a command to its end; its output is shown. Ends everything when it fails. */
function step(who: string, words: string, command: string, args: string[], env = process.env): string {
  say(who, words);
  const { status, stdout } = spawnSync(command, args, { env, encoding: 'utf8', stdio: ['ignore', 'pipe', 'inherit'] });
  if (status === 0) return stdout.trim();
  say(who, `that ended with ${status}. Put it right and start again.`);
  stop(1);
}

/** Keeps a command running; each line of its output says whose it is. */
function keep(who: string, command: string, args: string[], env: NodeJS.ProcessEnv): void {
  const child = spawn(command, args, { env, stdio: ['ignore', 'pipe', 'pipe'] });
  children.push(child);
  for (const output of [child.stdout, child.stderr]) createInterface(output).on('line', (line) => say(who, line));
  child.on('exit', (status) => say(who, `ended (${status}).`));
}

function stop(status: number): never {
  for (const child of children) child.kill('SIGTERM');
  spawnSync('scripts/cluster', ['stop', CLUSTER]);
  process.exit(status);
}
process.on('SIGINT', () => stop(0));
process.on('SIGTERM', () => stop(0));

/** Compiles the kernels when one changes; page, worklet and worker then follow, since they import the result. */
function watchKernels(): void {
  let timer: NodeJS.Timeout | undefined;
  const compile = () => {
    say('kernels', 'compiling…');
    const { status, stderr } = spawnSync(process.execPath, ['build/kernels.mjs'], { encoding: 'utf8' });
    say('kernels', status === 0 ? 'compiled.' : stderr.trim());
  };
  const changed = () => {
    clearTimeout(timer);
    timer = setTimeout(compile, SETTLE_MS);
  };
  watch('src/core/kernels/assembly', changed);
  watch('src/core/kernels/layout.ts', changed);
}

/** Bundles the worker again on each change; Node starts it again when its bundle has changed. */
function startWorker(env: NodeJS.ProcessEnv): void {
  keep('worker', process.execPath, ['build/programs.mjs', '--watch'], env);
  const timer = setInterval(() => {
    if (!existsSync(WORKER)) return;
    clearInterval(timer);
    keep('worker', process.execPath, ['--watch', '--watch-preserve-output', WORKER], env);
  }, SETTLE_MS);
}

step('setup', 'looking for what is missing', 'scripts/prepare', [
  'postgresql:/usr/lib/postgresql/*/bin/initdb',
  'ffmpeg',
]);
const env: NodeJS.ProcessEnv = {
  ...process.env,
  NODE_ENV: 'development',
  NEXT_TELEMETRY_DISABLED: '1',
  COPPER_DATA: DATA,
  COPPER_PORT: PORT,
  COPPER_LOG_LEVEL: process.env.COPPER_LOG_LEVEL ?? 'warn',
  // Sessions last across restarts. Nothing but this machine can reach it.
  COPPER_SESSION_SECRET: 'of no value: the development server only',
  DATABASE_URL: step('database', `starting on port ${DATABASE_PORT}`, 'scripts/cluster', [
    'start',
    CLUSTER,
    DATABASE_PORT,
  ]),
};
step('database', 'migrating', 'scripts/command', ['migrate'], env);
// The page is there meanwhile.
keep('seed', TSX, ['src/dev/seed.ts'], env);
watchKernels();
startWorker(env);
say('page', `http://127.0.0.1:${PORT}, stages at http://127.0.0.1:${PORT}/playground; the first visit compiles`);
keep('page', TSX, ['src/server/serve.ts'], env);
