import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { freePort, until } from './application';

/** An installation that runs through ./start, as people run it, in a folder and on ports of its own. */
export class Supervised {
  /** Its data, from when it is settled. */
  folder = '';
  readonly env: NodeJS.ProcessEnv;
  /** What ./start has printed since it began, or since that was emptied. */
  said = '';
  private start: ChildProcess | null = null;

  constructor(env: Record<string, string>) {
    this.env = { ...process.env, DATABASE_URL: '', ...env };
  }

  get url(): string {
    return `http://127.0.0.1:${this.env.COPPER_PORT}`;
  }

  /** Chooses its folder and its ports. */
  async settle(): Promise<void> {
    this.folder = mkdtempSync(path.join(os.tmpdir(), 'copper-supervised-'));
    // The database's own user has to reach its part of it.
    chmodSync(this.folder, 0o755);
    const [port, databasePort] = [String(await freePort()), String(await freePort())];
    Object.assign(this.env, { COPPER_DATA: this.folder, COPPER_PORT: port, COPPER_DATABASE_PORT: databasePort });
  }

  /** Runs ./start as a user would. */
  begin(): void {
    this.said = '';
    const start = spawn('./start', { env: this.env, stdio: ['ignore', 'pipe', 'pipe'] });
    for (const stream of [start.stdout, start.stderr])
      stream.on('data', (text: Buffer) => (this.said += text.toString()));
    this.start = start;
  }

  async ready(ms = 60_000): Promise<void> {
    const says = () => Promise.resolve(this.said.includes('Copper Lane is ready'));
    await until('it says that it is ready', says, ms).catch((error: Error) =>
      Promise.reject(new Error(`${error.message} It said: ${this.said.slice(-2000)}`)),
    );
  }

  /** Sends ./start a signal and waits for its end. */
  async end(signal: 'SIGTERM' | 'SIGKILL'): Promise<void> {
    const { start } = this;
    if (!start) return;
    start.kill(signal);
    if (start.exitCode === null && start.signalCode === null)
      await new Promise((resolve) => start.once('exit', resolve));
  }

  /** Ends everything and removes the folder. */
  async remove(): Promise<void> {
    if (!this.folder) return;
    await this.end('SIGTERM');
    spawnSync('scripts/cluster', ['stop', path.join(this.folder, 'postgresql')]);
    rmSync(this.folder, { recursive: true, force: true });
  }

  /** The number in the first line of a file; null while it is being written. */
  numberIn(...place: string[]): number | null {
    try {
      return Number(readFileSync(path.join(this.folder, ...place), 'utf8').split('\n')[0]) || null;
    } catch {
      return null;
    }
  }

  /** Number of a process that is supervised. */
  process(name: 'server' | 'worker'): number {
    return this.numberIn(`${name}.pid`)!;
  }

  /** Waits for another process in the place of one. */
  another(before: number, now: () => number | null): Promise<unknown> {
    return until(
      'there is another',
      () => {
        const found = now();
        return Promise.resolve(found !== null && found !== before);
      },
      30_000,
    );
  }

  health(): Promise<Record<string, boolean> | null> {
    return fetch(`${this.url}/api/health`)
      .then(async (response) => (await response.json()) as Record<string, boolean>)
      .catch(() => null);
  }

  well(ms?: number): Promise<unknown> {
    return until(
      'everything is well',
      async () => {
        const found = await this.health();
        return found !== null && Object.values(found).every(Boolean);
      },
      ms,
    );
  }

  /**
   * Kills the server again and again on a busy machine: it comes back within 30 s each time, and nobody takes one that starts for
   * one that hangs. Throws otherwise.
   */
  async restartUnderLoad(times: number): Promise<void> {
    this.said = '';
    const loops = Array.from({ length: os.cpus().length * 2 }, () =>
      spawn('nice', ['-n', '10', process.execPath, '-e', 'for (;;);'], { stdio: 'ignore' }),
    );
    try {
      for (let i = 0; i < times; i++) {
        const before = this.process('server');
        process.kill(before, 'SIGKILL');
        await this.another(before, () => this.process('server'));
        await this.well(30_000);
      }
    } finally {
      for (const loop of loops) loop.kill('SIGKILL');
    }
    if (this.said.includes('does not answer'))
      throw new Error('A server that was starting was taken for one that hangs.');
  }
}
