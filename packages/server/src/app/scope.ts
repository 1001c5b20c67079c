import type { Knex } from 'knex';
import type { Db } from './database';

/**
 * Brings a transaction to what some divisions may see and change, to its end: the database leaves out the rest, whatever is
 * asked. Null is everything.
 */
export async function scopeTo(tx: Knex.Transaction, divisions: readonly string[] | null): Promise<void> {
  if (divisions === null) return;
  await tx.raw(`select set_config('drumline.divisions', ?, true)`, [`{${divisions.join(',')}}`]);
  await tx.raw('set local role drumline_scoped');
}

/** A read of somebody who sees some divisions alone has a transaction of its own, as only that can be held to them. */
export function readScoped<T>(knex: Knex, divisions: readonly string[] | null, read: (db: Db) => Promise<T>): Promise<T> {
  if (divisions === null) return read(knex);
  return knex.transaction(async (tx) => {
    await scopeTo(tx, divisions);
    return read(tx);
  });
}
