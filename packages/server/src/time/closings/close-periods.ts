import { type WorkToClose, closeWork } from '@core/contracts';
import { dateOf, datesIn, type Id, isRefusal, type LocalDate, type Outcome, plusDays, refuse } from '@core/ground';
import { closable, type EntryEffect } from '@core/time';
import { at, type Db } from '../../app/database';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { type NamedTerms, readCoverTerms } from '../../contracts';
import { type HouseBook, spanOfDates } from '../../house';
import { onlyOpen, readClosed } from '../time-entries/read-closed';

export interface Closable {
  readonly terms: NamedTerms;
  /** The first open day; null where nothing is closed. */
  readonly closedTo: LocalDate | null;
  /** The days from which it can be open next. */
  readonly next: readonly LocalDate[];
}

/** Up to when a contract is closed and what can be closed next. */
export async function readClosable(
  db: Db,
  { contractId, today }: { readonly contractId: Id<'contract'>; readonly today: LocalDate },
): Promise<Outcome<Closable>> {
  const contract = await db('contract').where({ id: contractId }).first('agreed_at');
  if (!contract) return refuse('not-found', 'There is no such contract.');
  const terms = (await readCoverTerms(db, [contractId])).get(contractId)!;
  const last: Row<'contract_closing', 'to_on'> | undefined = await db('contract_closing')
    .where({ contract_id: contractId })
    .orderBy('to_on', 'desc')
    .first('to_on');
  const closedTo = last?.to_on ?? null;
  // What covers no work, or is not agreed, has nothing that could be closed.
  const covers = contract.agreed_at !== null && terms.rules.length > 0;
  return { terms, closedTo, next: covers ? closable(terms, { closedTo, today }) : [] };
}

export type RowToClose = Row<'time_entry', 'id' | 'starts_at' | 'ticket_id'> & { readonly effect: EntryEffect };

/** The open entries of a contract before a day. */
export async function readToClose(
  db: Db,
  book: HouseBook,
  { contractId, to }: { readonly contractId: Id<'contract'>; readonly to: LocalDate },
): Promise<RowToClose[]> {
  const last = plusDays(to, -1);
  return db('time_entry as e')
    .join('entry_effect as x', 'x.time_entry_id', 'e.id')
    .where({ 'e.contract_id': contractId })
    .whereNull('e.removed_at')
    .where('e.starts_at', '<', at(spanOfDates(book, last, last).to))
    .modify(onlyOpen(db, 'e'))
    .select('e.id', 'e.starts_at', 'e.ticket_id', 'x.effect');
}

/**
 * Closes the periods of a contract before a day, for good: its entries of those days are frozen, whether anything is charged
 * for them or not, and what they drew is summed up. Source: docs/calculations.md, Cover.
 */
export async function closePeriods(
  work: Work,
  { contractId, to }: { readonly contractId: Id<'contract'>; readonly to: LocalDate },
): Promise<Outcome<{ entries: number }>> {
  const { tx, book } = work;
  // Who saves work of the contract waits for it, and the other way round.
  await tx('contract').where({ id: contractId }).forNoKeyUpdate().select('id');
  const found = await readClosable(tx, { contractId, today: dateOf(work.now, book.house.zone) });
  if (isRefusal(found)) return found;
  const { terms, next } = found;
  if (!next.includes(to))
    return refuse('invalid', `It cannot be closed before ${to}.`, { to: next.length ? next.join(' or ') : 'nothing is over that is open' });
  const rows = await readToClose(tx, book, { contractId, to });
  const mine = rows.filter((r) => r.effect.under?.contractId === contractId);
  const on = datesIn(book.house.zone);
  const toClose = mine.map((r): WorkToClose => ({
    on: on(r.starts_at),
    ticketId: r.ticket_id,
    stretches: r.effect.under!.stretches,
  }));
  const before = (await readClosed(tx, [contractId], []))(contractId);
  const { draws, capped, incidents } = closeWork(terms, { before, work: toClose });
  const [closing] = await tx('contract_closing')
    .insert({ contract_id: contractId, to_on: to, closed_at: at(work.now), who_name: work.actor.name, entries: rows.length })
    .returning('id');
  await tx.batchInsert(
    'closed_entry',
    rows.map((r) => ({ entry_id: r.id, closing_id: closing!.id })),
  );
  if (incidents.length)
    await tx('closed_incident')
      .insert(incidents.map((i) => ({ contract_id: contractId, allowance_id: i.allowanceId, ticket_id: i.ticketId })))
      .onConflict(['allowance_id', 'ticket_id'])
      .ignore();
  await tx('contract_closed')
    .insert({ contract_id: contractId, draws: JSON.stringify(draws), capped: JSON.stringify(capped) })
    .onConflict('contract_id')
    .merge();
  await work.tell('contract.closed', contractId, { to, entries: rows.length });
  return { entries: rows.length };
}
