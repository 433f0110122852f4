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

/** Sorts the findings of two mixes of one piece by what became of them; a finding is the same when its kind is. */
export function compareFindings(older: readonly Finding[], newer: readonly Finding[]): FindingsCompared {
  const inOlder = new Map(older.map((finding) => [finding.kind, finding]));
  const kinds = new Set(newer.map(({ kind }) => kind));
  return {
    gone: older.filter(({ kind }) => !kinds.has(kind)),
    still: newer.flatMap((now) => {
      const before = inOlder.get(now.kind);
      return before ? [{ now, before: before.sentence }] : [];
    }),
    added: newer.filter(({ kind }) => !inOlder.has(kind)),
  };
}
