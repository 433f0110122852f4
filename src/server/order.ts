import type { Knex } from 'knex';
import { Problem } from './problem';

/**
 * Gives the rows of a list their places, first to last from 1. Throws a Problem (409) unless the identifiers are those of
 * all rows that are there, each once.
 */
export async function writeOrder(
  trx: Knex,
  table: 'tracks' | 'versions',
  where: Record<string, string>,
  ids: string[],
): Promise<void> {
  const present = await trx(table)
    .where({ ...where, removed_at: null })
    .pluck<string[]>('id');
  if (new Set(ids).size !== ids.length || ids.length !== present.length || !present.every((id) => ids.includes(id)))
    throw new Problem(409, 'The list was changed in another window. Reload the page and order it again.');
  for (const [index, id] of ids.entries())
    await trx(table)
      .where({ id })
      .update({ position: index + 1 });
}

/** The title of a copy. */
export function copyTitle(title: string): string {
  const most = 120;
  return `${title.slice(0, most - ' copy'.length)} copy`;
}
