import { z } from 'zod';

/** A moment in ISO 8601, of a year that a database has: there is no year 0. */
export const moment = (message = 'Give a moment, such as 2026-12-01T18:00:00Z.') =>
  z.iso.datetime(message).refine((value) => /^(?!0000)\d{4}-/.test(value), message);
