import type { ContractOffered, Reach } from '@core/contracts';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';

/** The contracts of clients that cover any work, among which each piece of it finds its own, with the order in which it does. */
export interface Offered {
  readonly order: readonly Reach[];
  readonly ofClient: (clientId: string | null) => readonly ContractOffered[];
}

export async function readOffered(db: Db, clientIds: readonly (string | null)[]): Promise<Offered> {
  const ids = [...new Set(clientIds)].filter((id) => id !== null);
  const rows: Row<'contract'>[] = ids.length
    ? await db('contract as c')
        .whereIn('c.client_id', ids)
        .whereNotNull('c.agreed_at')
        .whereExists(db('contract_cover as r').whereRaw('r.contract_id = c.id').select(db.raw('1')))
        .select('c.*')
    : [];
  if (!rows.length) return { order: [], ofClient: () => [] };
  const reaches: Row<'contract_reach'>[] = await db('contract_reach').whereIn(
    'contract_id',
    rows.map((r) => r.id),
  );
  const { order } = await readContractOrder(db);
  const offered = new Map<string, readonly ContractOffered[]>();
  for (const row of rows) {
    const mine = reaches.filter((r) => r.contract_id === row.id);
    offered.set(row.client_id, [...(offered.get(row.client_id) ?? []), offeredOf(row, mine)]);
  }
  return { order, ofClient: (clientId) => offered.get(clientId ?? '') ?? [] };
}

export async function readContractOrder(
  db: Db,
): Promise<{ readonly version: number; readonly order: readonly Reach[]; readonly warnLevels: readonly number[] }> {
  const row: Row<'contract_settings'> = (await db('contract_settings').first())!;
  return { version: row.version, order: row.reach_order, warnLevels: row.warn_levels };
}

function offeredOf(row: Row<'contract'>, reaches: readonly Row<'contract_reach'>[]): ContractOffered {
  return {
    id: row.id,
    number: row.number,
    name: row.name,
    isPreferred: row.is_preferred,
    isAgreed: row.agreed_at !== null,
    from: row.starts_on,
    to: row.ends_on,
    meantFor: reaches.map((r) => ({ reach: r.reach, of: r.of_what })),
  };
}
