import { chooseContract } from '@core/contracts';
import { type Id, type LocalDate, type Outcome, parseLocalDate, plusDays, refuse } from '@core/ground';
import type { TicketContractWire } from '@core/time';
import type { Db } from '../../app/database';
import { readOffered } from '../../contracts';
import type { HouseBook } from '../../house';
import { readTicketsToPlace } from '../time-entries/choose-contracts';
import { useOf } from './read-contract-time';
import { readDrawn } from './read-drawn';

/** The contract that work of today on a ticket finds, why, and what is left of it. */
export async function readTicketContract(
  db: Db,
  book: HouseBook,
  { ticketId, today }: { readonly ticketId: Id<'ticket'>; readonly today: LocalDate },
): Promise<Outcome<TicketContractWire>> {
  const ticket = await db('ticket').where({ id: ticketId }).first('client_id');
  if (!ticket) return refuse('not-found', 'There is no such ticket.');
  const { order, ofClient } = await readOffered(db, [ticket.client_id]);
  const offered = ofClient(ticket.client_id);
  const { reached, byHand } = (await readTicketsToPlace(db, [ticketId])).get(ticketId)!;
  const { id, why } = chooseContract(offered, { on: today, reached, order, byHand });
  const named = offered.map((c) => ({ id: c.id, number: c.number, name: c.name }));
  return {
    contract: named.find((c) => c.id === id) ?? null,
    by: byHand.length ? 'hand' : 'itself',
    why: [...why],
    currency: book.house.currency,
    offered: named.sort((a, b) => a.number - b.number),
    left: id === null ? [] : await readLeft(db, book, { contractId: id, today }),
  };
}

async function readLeft(
  db: Db,
  book: HouseBook,
  { contractId, today }: { readonly contractId: Id<'contract'>; readonly today: LocalDate },
): Promise<TicketContractWire['left']> {
  const drawn = (await readDrawn(db, book, contractId))!;
  return drawn.terms.allowances.map((allowance) => {
    const use = useOf(allowance, { ...drawn, lots: drawn.lots.get(allowance.id)!, on: today, today });
    const { name, measure, left, granted, usedPercent } = use;
    const first = use.lots.filter((l) => l.left > 0 && l.expiry !== null).sort((a, b) => (a.expiry! < b.expiry! ? -1 : 1))[0];
    return {
      name,
      measure,
      left,
      granted,
      usedPercent,
      expires: first ? { units: first.left, lastDay: plusDays(parseLocalDate(first.expiry!), -1) } : null,
    };
  });
}
