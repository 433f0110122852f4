import { spawnSync } from 'node:child_process';

/** Runs a Python program with JSON on its standard input and gives the JSON that it prints. */
export function python<T>(program: string, input: unknown): T {
  const { status, stdout, stderr } = spawnSync('/usr/bin/python3', ['-c', program], {
    input: JSON.stringify(input),
    encoding: 'utf8',
    maxBuffer: 1 << 28,
  });
  if (status !== 0) throw new Error(`Python failed: ${stderr}`);
  return JSON.parse(stdout) as T;
}
