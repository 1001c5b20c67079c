import { type ChosenByHand, type ChosenContract, chooseContract, type WorkReached } from '@core/contracts';
import { dateOf, type Id } from '@core/ground';
import type { Db } from '../../app/database';
import type { Joined, Row } from '../../app/rows';
import { readOffered } from '../../contracts';
import type { HouseBook } from '../../house';

/** What an entry is placed by; what somebody chose for it is there of one that is stored. */
export type EntryToPlace = Row<'time_entry', 'client_id' | 'starts_at' | 'corrects' | 'work_id'> &
  Partial<Row<'time_entry', 'chosen_by_hand' | 'chosen_contract_id'>>;

const BY_THE_HOUR: ChosenContract = { id: null, why: [] };

/** The contract that each entry finds by itself, or that somebody chose for it, in their order; a correction has its first's. */
export async function chooseContracts(db: Db, book: HouseBook, rows: readonly EntryToPlace[]): Promise<ChosenContract[]> {
  const offered = await readOffered(
    db,
    rows.map((r) => r.client_id),
  );
  const isPlaced = (row: EntryToPlace) => row.corrects === null && offered.ofClient(row.client_id).length > 0;
  const tickets = await readTicketsToPlace(
    db,
    rows.filter(isPlaced).map((r) => r.work_id),
  );
  return rows.map((row) => {
    if (!isPlaced(row)) return BY_THE_HOUR;
    const ticket = tickets.get(row.work_id);
    const byEntry: ChosenByHand[] = row.chosen_by_hand ? [{ of: 'entry', id: row.chosen_contract_id ?? null }] : [];
    return chooseContract(offered.ofClient(row.client_id), {
      on: dateOf(row.starts_at, book.house.zone),
      reached: ticket?.reached ?? NO_TICKET,
      order: offered.order,
      byHand: [...byEntry, ...(ticket?.byHand ?? [])],
    });
  });
}

const NO_TICKET: WorkReached = { asset: null, site: null, desk: null, kind: null, contact: null };

export interface TicketToPlace {
  readonly reached: WorkReached;
  readonly byHand: readonly ChosenByHand[];
}

type TicketRow = Row<'ticket', 'id' | 'asset_id' | 'desk_id' | 'kind' | 'contact_id'> &
  Joined<'work_facts', 'site_id'> &
  Joined<'ticket_contract', 'ticket_id' | 'contract_id'>;

/** By what tickets find their contract, with what somebody chose for them. */
export async function readTicketsToPlace(
  db: Db,
  workIds: readonly (Id<'work'> | Id<'ticket'>)[],
): Promise<ReadonlyMap<string, TicketToPlace>> {
  const rows: TicketRow[] = workIds.length
    ? await db('ticket as t')
        .join('work_facts as w', 'w.id', 't.id')
        .leftJoin('ticket_contract as h', 'h.ticket_id', 't.id')
        .whereIn('t.id', [...new Set<string>(workIds)])
        .select('t.id', 't.asset_id', 't.desk_id', 't.kind', 't.contact_id', 'w.site_id', 'h.ticket_id', 'h.contract_id')
    : [];
  return new Map(
    rows.map((t) => [
      t.id,
      {
        reached: { asset: t.asset_id, site: t.site_id, desk: t.desk_id, kind: t.kind, contact: t.contact_id },
        byHand: t.ticket_id === null ? [] : [{ of: 'ticket', id: t.contract_id }],
      },
    ]),
  );
}
