import { type ClosedWork, NOTHING_CLOSED } from '@core/contracts';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';

/** What the closed entries of contracts drew, by contract; of tickets only those that are asked for. */
export async function readClosed(
  db: Db,
  contractIds: readonly string[],
  ticketIds: readonly string[],
): Promise<(contractId: string) => ClosedWork> {
  const sums: Row<'contract_closed'>[] = contractIds.length ? await db('contract_closed').whereIn('contract_id', contractIds) : [];
  if (!sums.length) return () => NOTHING_CLOSED;
  const incidents: Row<'closed_incident'>[] = await db('closed_incident')
    .whereIn('contract_id', contractIds)
    .whereIn('ticket_id', ticketIds);
  return (contractId) => {
    const mine = sums.find((s) => s.contract_id === contractId);
    if (!mine) return NOTHING_CLOSED;
    return {
      draws: mine.draws,
      capped: mine.capped,
      incidents: incidents.filter((i) => i.contract_id === contractId).map((i) => ({ allowanceId: i.allowance_id, ticketId: i.ticket_id })),
    };
  };
}

/** Narrows to entries that no closing has. @param entry the name of their table in the query */
export function onlyOpen(db: Db, entry: string) {
  return (q: ReturnType<Db>) => void q.whereNotExists(db('closed_entry as z').whereRaw(`z.entry_id = ${entry}.id`).select(db.raw('1')));
}
