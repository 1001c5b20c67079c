import type { ContractOffered } from '@core/contracts';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';

/** The contracts of clients that cover any work, among which each piece of it finds its own. */
export async function readOffered(db: Db, clientIds: readonly (string | null)[]): Promise<ReadonlyMap<string, readonly ContractOffered[]>> {
  const ids = [...new Set(clientIds)].filter((id) => id !== null);
  const rows: Row<'contract'>[] = ids.length
    ? await db('contract as c')
        .whereIn('c.client_id', ids)
        .whereNotNull('c.agreed_at')
        .whereExists(db('contract_cover as r').whereRaw('r.contract_id = c.id').select(db.raw('1')))
        .select('c.*')
    : [];
  const offered = new Map<string, ContractOffered[]>();
  for (const row of rows) offered.set(row.client_id, [...(offered.get(row.client_id) ?? []), offeredOf(row)]);
  return offered;
}

function offeredOf(row: Row<'contract'>): ContractOffered {
  return {
    id: row.id,
    number: row.number,
    name: row.name,
    isPreferred: row.is_preferred,
    isAgreed: row.agreed_at !== null,
    from: row.starts_on,
    to: row.ends_on,
  };
}
