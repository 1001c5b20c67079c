import type { Knex } from 'knex';

/**
 * Brings a transaction to what some divisions may see and change, to its end: the database leaves out the rest, whatever is
 * asked. Null is everything.
 */
export async function scopeTo(tx: Knex.Transaction, divisions: readonly string[] | null): Promise<void> {
  if (divisions === null) return;
  await tx.raw(`select set_config('drumline.divisions', ?, true)`, [`{${divisions.join(',')}}`]);
  await tx.raw('set local role drumline_scoped');
}
