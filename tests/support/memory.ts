import { readdirSync, readFileSync } from 'node:fs';

/** Memory of the page's process in bytes, shared parts by their share (Linux, proc(5), smaps_rollup): the largest renderer. */
export function pageBytes(): number {
  const sizes = readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .map((pid) => {
      try {
        if (!readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('--type=renderer')) return 0;
        return 1024 * Number(/^Pss:\s+(\d+)/m.exec(readFileSync(`/proc/${pid}/smaps_rollup`, 'utf8'))?.[1] ?? 0);
      } catch {
        return 0; // It has ended meanwhile.
      }
    });
  return Math.max(...sizes);
}
