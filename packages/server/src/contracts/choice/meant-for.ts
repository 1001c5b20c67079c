import type { MeantForWire, Reach } from '@core/contracts';
import { KINDS } from '@core/desk';
import { type Id, isRefusal, type Outcome, refuse } from '@core/ground';
import type { Db } from '../../app/database';
import { changeRow } from '../../app/change-row';
import type { Work } from '../../app/work';

export interface NamedReach extends MeantForWire {
  readonly name: string;
}

/** Where each of them stands, of the client whose contract it is; desks are everybody's. */
const TABLES: Readonly<
  Record<Exclude<Reach, 'kind'>, { readonly table: 'asset' | 'site' | 'desk' | 'contact'; readonly ofClient: boolean }>
> = {
  asset: { table: 'asset', ofClient: true },
  site: { table: 'site', ofClient: true },
  desk: { table: 'desk', ofClient: false },
  contact: { table: 'contact', ofClient: true },
};

/** Says for what of its client's a contract is; empty is all. */
export async function setMeantFor(
  work: Work,
  { contractId, version }: { readonly contractId: Id<'contract'>; readonly version: number },
  meantFor: readonly MeantForWire[],
): Promise<Outcome<{ id: string; version: number }>> {
  const changed = await changeRow(work, { table: 'contract', id: contractId, version, set: {} });
  if (isRefusal(changed)) return changed;
  const unique = [...new Map(meantFor.map((m) => [`${m.reach} ${m.of}`, m])).values()];
  const { client_id } = (await work.tx('contract').where({ id: contractId }).first('client_id'))!;
  const names = await readReachNames(work.tx, unique, client_id);
  const strange = unique.findIndex((m) => !names.has(keyOf(m)));
  if (strange >= 0) {
    const { reach } = unique[strange]!;
    return refuse('invalid', `There is no such ${reach} of this client.`, { [`meantFor.${strange}.of`]: `one of the client's` });
  }
  await work.tx('contract_reach').where({ contract_id: contractId }).delete();
  if (unique.length)
    await work.tx('contract_reach').insert(unique.map((m) => ({ contract_id: contractId, reach: m.reach, of_what: m.of })));
  await work.tell('contract.meant-for-set', contractId, { names: unique.map((m) => names.get(keyOf(m))!) });
  return changed;
}

/** For what a contract is, each by its name. */
export async function readMeantFor(db: Db, contractId: Id<'contract'>): Promise<NamedReach[]> {
  const rows = await db('contract_reach').where({ contract_id: contractId }).orderBy(['reach', 'of_what']);
  const all = rows.map((r) => ({ reach: r.reach, of: r.of_what }));
  const names = await readReachNames(db, all);
  return all.map((m) => ({ ...m, name: names.get(keyOf(m)) ?? 'no longer there' }));
}

async function readReachNames(db: Db, all: readonly MeantForWire[], clientId?: Id<'client'>): Promise<ReadonlyMap<string, string>> {
  const names = new Map<string, string>();
  for (const m of all) if (m.reach === 'kind' && (KINDS as readonly string[]).includes(m.of)) names.set(keyOf(m), m.of);
  for (const [reach, { table, ofClient }] of Object.entries(TABLES) as [Exclude<Reach, 'kind'>, (typeof TABLES)['asset']][]) {
    const ids = all.filter((m) => m.reach === reach).map((m) => m.of);
    if (!ids.length) continue;
    const rows: { id: string; name: string }[] = await db(table)
      .whereRaw('id::text = any(?)', [ids])
      .modify((q) => ofClient && clientId !== undefined && void q.where({ client_id: clientId }))
      .select('id', 'name');
    for (const { id, name } of rows) names.set(keyOf({ reach, of: id }), name);
  }
  return names;
}

const keyOf = ({ reach, of }: MeantForWire) => `${reach} ${of}`;
