import { z } from 'zod';

/** What kind of problem an answer tells, next to the sentence for the person. */
export const PROBLEM_CODES = [
  'badRequest',
  'signedOut',
  'otherSite',
  'notFound',
  'conflict',
  'versionChanged',
  'tooLarge',
  'overQuota',
  'passphrase',
  'gone',
  'invalid',
  'tooMany',
  'failed',
  'unavailable',
  'diskFull',
] as const;
export type ProblemCode = (typeof PROBLEM_CODES)[number];

/** The answer to a request that failed. */
export const problemSchema = z.object({ error: z.string(), code: z.enum(PROBLEM_CODES).catch('failed') });

const CODE_OF_STATUS: Readonly<Record<number, ProblemCode>> = {
  400: 'badRequest',
  401: 'signedOut',
  403: 'otherSite',
  404: 'notFound',
  409: 'conflict',
  410: 'gone',
  413: 'tooLarge',
  415: 'badRequest',
  416: 'badRequest',
  422: 'invalid',
  429: 'tooMany',
  500: 'failed',
  503: 'unavailable',
  507: 'diskFull',
};

/** What a problem of an HTTP status is, unless it says so itself. */
export function codeOf(status: number): ProblemCode {
  return CODE_OF_STATUS[status] ?? 'failed';
}
