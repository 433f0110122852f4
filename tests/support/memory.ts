import { readdirSync, readFileSync } from 'node:fs';

/** Number of the parent of a process (Linux, proc(5), stat). */
function parentOf(pid: number): number {
  // The name in brackets may hold anything.
  return Number(readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ').at(-1)!.split(' ')[1]);
}

/** Whether this program started a process, itself or through others. */
function isOurs(pid: number): boolean {
  for (let at = pid; at > 1; at = parentOf(at)) if (at === process.pid) return true;
  return false;
}

/**
 * Memory of the page's process in bytes, shared parts by their share (Linux, proc(5), smaps_rollup): the largest renderer of the
 * browsers that this program started.
 */
export function pageBytes(): number {
  const sizes = readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .map((pid) => {
      try {
        if (!readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('--type=renderer') || !isOurs(Number(pid))) return 0;
        return 1024 * Number(/^Pss:\s+(\d+)/m.exec(readFileSync(`/proc/${pid}/smaps_rollup`, 'utf8'))?.[1] ?? 0);
      } catch {
        return 0; // It has ended meanwhile.
      }
    });
  return Math.max(...sizes);
}
