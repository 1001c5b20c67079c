import { isRefusal, type Outcome } from '@core/ground';
import { changeRow } from './change-row';
import { at } from './database';
import type { Work } from './work';

export interface Archiving {
  readonly table: string;
  readonly subject: 'client' | 'contact' | 'asset' | 'item';
  readonly id: string;
  readonly version: number;
  readonly archived: boolean;
}

/** Puts a record away, or brings it back. It stays in everything that names it and leaves the lists. */
export async function archiveRow(work: Work, a: Archiving): Promise<Outcome<{ id: string; version: number }>> {
  const set = { archived_at: a.archived ? at(work.now) : null };
  const changed = await changeRow(work, { table: a.table, id: a.id, version: a.version, set });
  if (!isRefusal(changed)) await work.tell(`${a.subject}.${a.archived ? 'put-away' : 'brought-back'}`, a.id, {});
  return changed;
}
