import type { Knex } from 'knex';
import { firstSlice } from './001-first-slice';
import { completeIntake } from './002-complete-intake';
import { mixesAndPins } from './003-mixes-and-pins';
import { impulseResponses } from './004-impulse-responses';
import { reliability } from './005-reliability';

/** Every migration by name, in order; only ever added to. */
export const migrations: Record<string, Knex.Migration> = {
  '001-first-slice': firstSlice,
  '002-complete-intake': completeIntake,
  '003-mixes-and-pins': mixesAndPins,
  '004-impulse-responses': impulseResponses,
  '005-reliability': reliability,
};
