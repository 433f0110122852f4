import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { chmodSync, existsSync, mkdirSync, openSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';

export interface ApplicationOptions {
  port: number;
  databasePort: number;
  env?: Record<string, string>;
}

const READY_MS = 120_000;

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

/** The built application with a database cluster, a data folder and a worker of its own, on loopback. */
export class Application {
  readonly url: string;
  readonly folder: string;
  readonly env: NodeJS.ProcessEnv;
  private server: ChildProcess | null = null;
  private worker: ChildProcess | null = null;

  constructor(private readonly options: ApplicationOptions) {
    this.url = `http://127.0.0.1:${options.port}`;
    this.folder = path.join(os.tmpdir(), `copper-lane-test-${options.port}`);
    this.env = {
      ...process.env,
      NODE_ENV: 'production',
      NEXT_TELEMETRY_DISABLED: '1',
      COPPER_DATA: this.folder,
      COPPER_SESSION_SECRET: randomBytes(24).toString('hex'),
      COPPER_PORT: String(options.port),
      COPPER_LOG_LEVEL: 'warn',
      ...options.env,
    };
  }

  get databaseUrl(): string {
    return this.env.DATABASE_URL!;
  }

  /** Starts everything on an empty database and an empty store; stops it again when something does not start. */
  async start(): Promise<this> {
    try {
      return await this.startAll();
    } catch (error) {
      await this.stop();
      throw error;
    }
  }

  private async startAll(): Promise<this> {
    this.endLeftOver();
    this.cluster('stop');
    rmSync(this.folder, { recursive: true, force: true });
    mkdirSync(this.folder, { recursive: true });
    chmodSync(this.folder, 0o755);
    this.env.DATABASE_URL = this.cluster('start', String(this.options.databasePort)).trim();
    this.command('src/cli/migrate.ts');
    this.startServer();
    this.startWorker();
    await this.answering();
    return this;
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

  /** What the worker has logged so far. */
  workerLog(): string {
    return readFileSync(path.join(this.folder, 'worker.log'), 'utf8');
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
  command(file: string, args: string[] = [], { env = {}, input }: { env?: object; input?: string } = {}): string {
    const { status, stdout, stderr } = spawnSync(process.execPath, ['--import', 'tsx', file, ...args], {
      env: { ...this.env, ...env },
      encoding: 'utf8',
      input,
    });
    if (status !== 0) throw new Error(`${file} ended with ${status}: ${stderr}`);
    return stdout;
  }

  async stop(): Promise<void> {
    await this.killWorker();
    await this.killServer();
    this.cluster('stop');
    rmSync(this.folder, { recursive: true, force: true });
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
    writeFileSync(path.join(this.folder, `${child.pid}.pid`), '');
    return child;
  }

  /** Ends what a test run left running that was killed itself. */
  private endLeftOver(): void {
    if (!existsSync(this.folder)) return;
    for (const name of readdirSync(this.folder).filter((each) => each.endsWith('.pid'))) {
      const pid = Number(path.basename(name, '.pid'));
      const file = `/proc/${pid}/cmdline`;
      if (existsSync(file) && readFileSync(file, 'utf8').includes('dist/')) process.kill(pid, 'SIGKILL');
    }
  }
}
