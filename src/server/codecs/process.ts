import { spawn, type ChildProcessByStdio } from 'node:child_process';
import type { Readable, Writable } from 'node:stream';

type Child = ChildProcessByStdio<Writable, Readable, Readable>;

/** A running ffmpeg or ffprobe; `finished` rejects with what it said when it did not end well. */
export interface Running {
  child: Child;
  finished: Promise<void>;
}

const SAID_MAX = 4000;

export function start(program: 'ffmpeg' | 'ffprobe', args: string[], signal?: AbortSignal): Running {
  const quiet = program === 'ffmpeg' ? ['-hide_banner', '-nostdin', '-v', 'error'] : ['-v', 'error'];
  const child = spawn(program, [...quiet, ...args], { stdio: ['pipe', 'pipe', 'pipe'], signal, killSignal: 'SIGKILL' });
  let said = '';
  child.stderr.setEncoding('utf8').on('data', (text: string) => {
    if (said.length < SAID_MAX) said += text;
  });
  // A reader that leaves early breaks the pipe; the exit status tells what matters.
  child.stdin.on('error', () => {});
  const finished = new Promise<void>((resolve, reject) => {
    child.on('error', reject);
    child.on('close', (status) => {
      if (status === 0 && said === '') resolve();
      else reject(new Error(`${program} ended with status ${status ?? 'none'}: ${said.trim()}`));
    });
  });
  finished.catch(() => {});
  return { child, finished };
}

/** Standard output of a short run. */
export async function output(program: 'ffmpeg' | 'ffprobe', args: string[]): Promise<string> {
  const { child, finished } = start(program, args);
  child.stdin.end();
  let text = '';
  for await (const chunk of child.stdout.setEncoding('utf8')) text += chunk;
  await finished;
  return text;
}
