import { chooseContract } from '@core/contracts';
import { type Id, type LocalDate, type Outcome, plusDays, refuse } from '@core/ground';
import type { TicketContractWire } from '@core/time';
import type { Db } from '../../app/database';
import { readOffered } from '../../contracts';
import type { HouseBook } from '../../house';
import { readTicketsToPlace } from '../time-entries/choose-contracts';
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
  const { terms, lots } = (await readDrawn(db, book, contractId))!;
  return terms.allowances.map(({ id, name, measure }) => {
    const open = measure === 'unlimited' ? [] : lots.get(id)!.on(today);
    const [left, granted] = [sum(open.map((l) => l.left)), sum(open.map((l) => l.granted))];
    const until = open.map((l) => l.expiry).sort()[0];
    return {
      name,
      measure,
      left,
      granted,
      usedPercent: granted === 0 ? 0 : Math.floor(((granted - left) * 100) / granted),
      until: until ? plusDays(until, -1) : null,
    };
  });
}

const sum = (all: readonly number[]) => all.reduce((total, n) => total + n, 0);
