import { spawn, type ChildProcessByStdio } from 'node:child_process';
import type { Readable, Writable } from 'node:stream';
import { DiskFull } from '../failures';

type Child = ChildProcessByStdio<Writable, Readable, Readable>;
export type Program = 'ffmpeg' | 'ffprobe';

/** A running ffmpeg or ffprobe; `finished` rejects with what it said when it did not end well. */
export interface Running {
  child: Child;
  finished: Promise<void>;
}

const SAID_MAX = 4000;
/** What a codec program says, in words only, when the disk is full. */
const NO_SPACE = /No space left on device|Disk quota exceeded/;
/** Address space: decoding takes a few hundred MB, most of it reserved and never used. */
const MEMORY_BYTES = 4 * 2 ** 30;
/** Largest file it may write: an hour of stereo floats at 384 kHz, and a little more. */
const OUTPUT_BYTES = 12 * 2 ** 30;
/** Longest run: an hour at the highest rate on a slow machine. */
const LONGEST_RUN_SECONDS = 30 * 60;

/** A demuxer by name and the files it may open: what comes from outside never chooses either. */
export function fileInput(demuxer: string, file: string): string[] {
  return ['-protocol_whitelist', 'file', '-f', demuxer, '-i', `file:${file}`];
}

/**
 * Starts a codec program with limits on memory, output and time. It is killed with the thread that started it, however that
 * ends.
 */
export function start(
  program: Program,
  args: string[],
  { signal, seconds = LONGEST_RUN_SECONDS }: { signal?: AbortSignal; seconds?: number } = {},
): Running {
  const quiet = program === 'ffmpeg' ? ['-hide_banner', '-nostdin', '-v', 'error'] : ['-v', 'error'];
  const limits = ['--pdeathsig', 'KILL', 'prlimit', `--as=${MEMORY_BYTES}`, `--fsize=${OUTPUT_BYTES}`, program];
  const child = spawn('setpriv', [...limits, ...quiet, ...args], {
    stdio: ['pipe', 'pipe', 'pipe'],
    signal,
    killSignal: 'SIGKILL',
  });
  let tooLong = false;
  const timer = setTimeout(() => {
    tooLong = true;
    child.kill('SIGKILL');
  }, seconds * 1000);
  let said = '';
  child.stderr.setEncoding('utf8').on('data', (text: string) => {
    if (said.length < SAID_MAX) said += text;
  });
  // A reader that leaves early breaks the pipe; the exit status tells what matters.
  child.stdin.on('error', () => {});
  const finished = new Promise<void>((resolve, reject) => {
    child.on('error', reject);
    child.on('close', (status) => {
      clearTimeout(timer);
      if (status === 0 && said === '') resolve();
      else if (tooLong) reject(new Error(`${program} was stopped after ${seconds} s.`));
      else {
        const reason = `${program} ended with status ${status ?? 'none'}: ${said.trim()}`;
        reject(NO_SPACE.test(said) ? new DiskFull(reason) : new Error(reason));
      }
    });
  });
  finished.catch(() => {});
  return { child, finished };
}

/** Standard output of a short run. */
export async function output(program: Program, args: string[], mostBytes = 1 << 20): Promise<string> {
  const { child, finished } = start(program, args, { seconds: 20 });
  child.stdin.end();
  let text = '';
  for await (const chunk of child.stdout.setEncoding('utf8')) {
    text += chunk;
    if (text.length > mostBytes) {
      child.kill('SIGKILL');
      throw new Error(`${program} said more than ${mostBytes} bytes.`);
    }
  }
  await finished;
  return text;
}
