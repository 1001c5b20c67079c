import { refuse, type Outcome } from '@core/ground';
import type { Work } from './work';

export interface RowChange {
  readonly table: string;
  readonly id: string;
  /** The version the caller saw; undefined where the change doesn't build on what was seen. */
  readonly version: number | undefined;
  readonly set: Readonly<Record<string, unknown>>;
}

/**
 * Changes a row that people edit and raises its version. Refuses where somebody else changed it since the
 * caller saw it.
 */
export async function changeRow(work: Work, { table, id, version, set }: RowChange): Promise<Outcome<{ id: string; version: number }>> {
  const [row] = await work
    .tx(table)
    .where({ id })
    .modify((q) => version !== undefined && void q.where({ version }))
    .update({ ...set, version: work.tx.raw('version + 1') })
    .returning(['id', 'version']);
  if (row) return row as { id: string; version: number };
  const [current] = await work.tx(table).where({ id }).select('version');
  if (!current) return refuse('not-found', `There is no ${table.replace('_', ' ')} with that id.`);
  return refuse(
    'changed-meanwhile',
    `Somebody changed this meanwhile (you saw version ${version}, it is now ${current.version}). Look at both and choose.`,
  );
}
