import { execFileSync, spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { randomBytes, randomInt } from 'node:crypto';
import { chmodSync, closeSync, existsSync, mkdtempSync, openSync, readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import os from 'node:os';
import path from 'node:path';

export interface ApplicationOptions {
  env?: Record<string, string>;
  /** With the demo in its database and store. */
  demo?: boolean;
}

const READY_MS = 120_000;

/** Folder of prepared installations, where one was made: what starts many of them copies one (tests/support/template.ts). */
const TEMPLATES = 'COPPER_TEST_TEMPLATES';

/** A free port on loopback, below those that the system gives to connections of its own. */
export async function freePort(): Promise<number> {
  for (;;) {
    const port = randomInt(10_000, 32_000);
    const free = await new Promise<boolean>((resolve) => {
      const server = createServer();
      server.once('error', () => resolve(false));
      server.listen(port, '127.0.0.1', () => server.close(() => resolve(true)));
    });
    if (free) return port;
  }
}

function pause(ms: number): Promise<void> {
  return new Promise((resolve) => setTimeout(resolve, ms));
}

/** Waits until a condition holds. Throws with what was waited for when it does not come true in time. */
export async function until<T>(what: string, condition: () => Promise<T | null | undefined | false>, ms = READY_MS) {
  const end = Date.now() + ms;
  for (;;) {
    const found = await condition();
    if (found) return found;
    if (Date.now() > end) throw new Error(`Waited in vain until ${what}.`);
    await pause(100);
  }
}

async function kill(child: ChildProcess | null): Promise<void> {
  if (!child || child.exitCode !== null || child.signalCode !== null) return;
  const gone = new Promise((resolve) => child.once('exit', resolve));
  child.kill('SIGKILL');
  await gone;
}

/** The built application with a database cluster, a data folder, ports and a worker of its own, on loopback. */
export class Application {
  /** Its data, from when it is prepared. */
  folder = '';
  readonly env: NodeJS.ProcessEnv;
  private readonly demo: boolean;
  private server: ChildProcess | null = null;
  private worker: ChildProcess | null = null;

  constructor({ env, demo = false }: ApplicationOptions = {}) {
    this.demo = demo;
    this.env = {
      ...process.env,
      NODE_ENV: 'production',
      NEXT_TELEMETRY_DISABLED: '1',
      COPPER_SESSION_SECRET: randomBytes(24).toString('hex'),
      COPPER_LOG_LEVEL: 'warn',
      ...env,
    };
  }

  get url(): string {
    return `http://127.0.0.1:${this.env.COPPER_PORT}`;
  }

  get databaseUrl(): string {
    return this.env.DATABASE_URL!;
  }

  /** Starts everything on an empty database and an empty store; stops it again when something does not start. */
  async start(): Promise<this> {
    try {
      await this.prepare();
      this.env.COPPER_PORT = String(await freePort());
      this.startServer();
      this.startWorker();
      await this.answering();
      return this;
    } catch (error) {
      await this.stop();
      throw error;
    }
  }

  /** Starts the database alone, in its newest form, with the demo if that was asked for: a copy of one that was prepared before. */
  async prepare(): Promise<void> {
    this.folder = mkdtempSync(path.join(os.tmpdir(), 'copper-application-'));
    // The database's own user has to reach its part of it.
    chmodSync(this.folder, 0o755);
    this.env.COPPER_DATA = this.folder;
    const prepared = path.join(process.env[TEMPLATES] ?? '', this.demo ? 'demo' : 'empty');
    const copied = TEMPLATES in process.env && existsSync(prepared);
    if (copied) execFileSync('cp', ['-a', `${prepared}/.`, this.folder]);
    this.env.DATABASE_URL = this.cluster('start', String(await freePort())).trim();
    if (copied) return;
    this.command('migrate');
    if (this.demo) this.command('seed');
  }

  startServer(): void {
    this.server = this.background('server', 'dist/serve.js');
  }

  startWorker(): void {
    this.worker = this.background('worker', 'dist/jobs/worker.js');
  }

  /** Kills the worker as a crash would. */
  async killWorker(): Promise<void> {
    await kill(this.worker);
  }

  async killServer(): Promise<void> {
    await kill(this.server);
  }

  /** Freezes the worker (SIGSTOP), or has it stop in an orderly way (SIGTERM). */
  signalWorker(signal: 'SIGSTOP' | 'SIGTERM'): void {
    this.worker?.kill(signal);
  }

  /** Lets the present worker be, and gives what lets it go on if it is frozen, and what ends it. */
  leaveWorker(): { resume: () => void; end: () => Promise<void> } {
    const { worker } = this;
    this.worker = null;
    return { resume: () => void worker?.kill('SIGCONT'), end: () => kill(worker) };
  }

  async answering(): Promise<void> {
    await until('the application answers', () =>
      fetch(`${this.url}/api/health`).then(
        ({ ok }) => ok,
        () => false,
      ),
    );
  }

  /** What the worker, or the server, has logged so far. */
  log(name: 'worker' | 'server' = 'worker'): string {
    return readFileSync(path.join(this.folder, `${name}.log`), 'utf8');
  }

  /** Kills the database as a crash would, and starts it again. */
  crashDatabase(): void {
    const pid = readFileSync(path.join(this.folder, 'postgresql', 'cluster', 'postmaster.pid'), 'utf8').split('\n')[0];
    process.kill(Number(pid), 'SIGKILL');
    this.cluster('restart');
  }

  /** Stops and starts the database, as an update of the machine would. */
  restartDatabase(): void {
    this.cluster('restart');
  }

  /** Runs one of the project's commands to its end; throws with what it said when it fails. */
  command(name: string, args: string[] = [], { env = {}, input }: { env?: object; input?: string } = {}): string {
    const { status, stdout, stderr } = spawnSync('scripts/command', [name, ...args], {
      env: { ...this.env, ...env },
      encoding: 'utf8',
      input,
    });
    if (status !== 0) throw new Error(`${name} ended with ${status}: ${stderr}`);
    return stdout;
  }

  async stop(): Promise<void> {
    if (!this.folder) return;
    await this.halt();
    rmSync(this.folder, { recursive: true, force: true });
  }

  /** Ends everything and leaves the folder as it is. */
  async halt(): Promise<void> {
    await this.killWorker();
    await this.killServer();
    this.cluster('stop');
  }

  private cluster(...args: string[]): string {
    const [action, ...rest] = args;
    const folder = path.join(this.folder, 'postgresql');
    const { status, stdout, stderr } = spawnSync('scripts/cluster', [action, folder, ...rest], {
      encoding: 'utf8',
      env: { ...process.env, COPPER_CLUSTER: '' },
    });
    if (status !== 0) throw new Error(`The database could not be brought to ${action}: ${stderr}`);
    return stdout;
  }

  private background(name: string, program: string): ChildProcess {
    const log = openSync(path.join(this.folder, `${name}.log`), 'a');
    const child = spawn(process.execPath, [program], { env: this.env, stdio: ['ignore', log, log] });
    closeSync(log);
    return child;
  }
}
