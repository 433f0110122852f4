import { spawnSync } from 'node:child_process';
import { performance } from 'node:perf_hooks';

const median = (times: number[]) => times.sort((a, b) => a - b)[Math.floor(times.length / 2)];

/** Median of the times in milliseconds that `work` takes, after one run that does not count. */
export async function medianMs(runs: number, work: () => unknown): Promise<number> {
  const times: number[] = [];
  for (let i = 0; i <= runs; i++) {
    const start = performance.now();
    await work();
    if (i > 0) times.push(performance.now() - start);
  }
  return median(times);
}

/** The same of two works that take turns, so that a slow minute of the machine is one of both. */
export async function medianMsOfBoth(
  runs: number,
  first: () => unknown,
  second: () => unknown,
): Promise<[first: number, second: number]> {
  const times: [number[], number[]] = [[], []];
  for (let i = 0; i <= runs; i++)
    for (const [of, work] of [first, second].entries()) {
      const start = performance.now();
      await work();
      if (i > 0) times[of].push(performance.now() - start);
    }
  return [median(times[0]), median(times[1])];
}

/** Runs ffmpeg on one thread to nowhere, through a chain of filters or a graph of them. */
export function ffmpeg(file: string, filters: string, option: '-af' | '-filter_complex' = '-af'): void {
  const args = [
    '-v',
    'error',
    '-nostdin',
    '-threads',
    '1',
    '-filter_threads',
    '1',
    '-filter_complex_threads',
    '1',
    '-i',
    file,
    option,
    filters,
    '-f',
    'null',
    '-',
  ];
  const { status, stderr } = spawnSync('ffmpeg', args, { encoding: 'utf8' });
  if (status !== 0) throw new Error(stderr);
}

export interface Row {
  what: string;
  figure: string;
  /** What is aimed at, or empty. */
  aim?: string;
}

export function print(title: string, rows: Row[]): void {
  process.stdout.write(`\n## ${title}\n\n| what | measured | aim |\n| --- | --- | --- |\n`);
  for (const { what, figure, aim } of rows) process.stdout.write(`| ${what} | ${figure} | ${aim ?? ''} |\n`);
}
