import type { Finding } from './findings';

/** What became of the findings of an older mix in a newer one. */
export interface FindingsCompared {
  /** Found in the older mix alone. */
  gone: Finding[];
  /** Found in both, in the newer one's words, with the older one's sentence. */
  still: { now: Finding; before: string }[];
  /** Found in the newer mix alone. */
  added: Finding[];
}

/** Sorts the findings of two mixes of one piece by what became of them; a finding is the same when its title is. */
export function compareFindings(older: readonly Finding[], newer: readonly Finding[]): FindingsCompared {
  const inOlder = new Map(older.map((finding) => [finding.title, finding]));
  const titles = new Set(newer.map(({ title }) => title));
  return {
    gone: older.filter(({ title }) => !titles.has(title)),
    still: newer.flatMap((now) => {
      const before = inOlder.get(now.title);
      return before ? [{ now, before: before.sentence }] : [];
    }),
    added: newer.filter(({ title }) => !inOlder.has(title)),
  };
}
