import { spawn } from 'node:child_process';

export interface Said {
  status: number | null;
  out: string;
  errors: string;
}

const MOST_SAID = 64 * 2 ** 20;
const LONGEST_MS = 10 * 60_000;

/** Runs a program to its end and gives what it said. Rejects when it can’t be started. */
export function run(program: string, args: readonly string[]): Promise<Said> {
  return new Promise((resolve, reject) => {
    const child = spawn(program, args, { stdio: ['ignore', 'pipe', 'pipe'], timeout: LONGEST_MS });
    const said = { out: '', errors: '' };
    for (const [stream, where] of [
      [child.stdout, 'out'],
      [child.stderr, 'errors'],
    ] as const)
      stream.setEncoding('utf8').on('data', (text: string) => {
        if (said[where].length < MOST_SAID) said[where] += text;
      });
    child.on('error', reject);
    child.on('close', (status) => resolve({ status, ...said }));
  });
}
