import type { Knex } from 'knex';
import { firstSlice } from './001-first-slice';

/** Every migration by name, in order; only ever added to. */
export const migrations: Record<string, Knex.Migration> = {
  '001-first-slice': firstSlice,
};
