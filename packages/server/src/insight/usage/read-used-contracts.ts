import type { Id, LocalDate } from '@core/ground';
import { type UsedAllowance, type UsedContract, usedIn } from '@core/insight';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import type { HouseBook } from '../../house';
import { drawsOf, readDrawn } from '../../time';

/** What the contracts of a client that cover work granted for a span, what was used of it and what is left. @param to the last day */
export async function readUsedContracts(
  db: Db,
  book: HouseBook,
  { clientId, from, to }: { readonly clientId: Id<'client'>; readonly from: LocalDate; readonly to: LocalDate },
): Promise<UsedContract[]> {
  const contracts: Row<'contract', 'id' | 'number' | 'name'>[] = await db('contract as c')
    .where({ client_id: clientId })
    .whereNotNull('agreed_at')
    .where('starts_on', '<=', to)
    .where((q) => void q.whereNull('ends_on').orWhere('ends_on', '>', from))
    .whereExists(db('contract_cover as r').whereRaw('r.contract_id = c.id').select(db.raw('1')))
    .orderBy('number')
    .select('id', 'number', 'name');
  const used: UsedContract[] = [];
  for (const { id, number, name } of contracts) {
    const drawn = (await readDrawn(db, book, id))!;
    const { terms, lots } = drawn;
    const draws = drawsOf(drawn);
    const allowances = terms.allowances.map((a): UsedAllowance => {
      const mine = draws.filter((d) => d.allowanceId === a.id);
      const granted = a.measure === 'unlimited' ? [] : lots.get(a.id)!.grantedBy(to);
      return { name: a.name, measure: a.measure, ...usedIn({ lots: granted, draws: mine }, { from, to }) };
    });
    used.push({ number, name, allowances });
  }
  return used;
}
