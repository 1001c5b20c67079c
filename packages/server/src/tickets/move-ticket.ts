import { isRefusal, refuse, type Outcome } from '@core/outcome';
import { priorityOf } from '@core/priority';
import { factsOfMove, isEnded, moveStatus, type HoldReason, type Status, type TicketEdit } from '@core/tickets';
import { at } from '../app/database';
import { changeRow } from '../app/change-row';
import type { Work } from '../app/work';
import type { HouseBook } from '../house/house-book';
import { addFacts, storeClocks } from './ticket-clock-store';
import { isPriorityContact, wrongOwner } from './triage-ticket';

type Done = Outcome<{ id: string; version: number }>;

/** Moves a ticket to a status that a person asked for. */
export async function setStatus(
  work: Work,
  book: HouseBook,
  ticketId: string,
  version: number | undefined,
  to: Status,
  holdReason: HoldReason | null,
): Promise<Done> {
  const ticket = await work.tx('ticket').where({ id: ticketId }).first();
  if (!ticket) return refuse('not-found', 'There is no such ticket.');
  if (ticket.kind === 'unsorted') return refuse('not-possible-now', 'Sort this ticket in intake first.');
  const move = moveStatus(ticket.status, to, holdReason, work.now);
  if (isRefusal(move)) return move;
  return store(work, book, ticket, version, to, move.holdReason);
}

/** Moves a ticket because a fact says so (a booking, a timer, a client's reply), not because a person chose a status. */
export async function moveByFact(work: Work, book: HouseBook, ticketId: string, to: Status): Promise<void> {
  const ticket = await work.tx('ticket').where({ id: ticketId }).first();
  if (ticket && ticket.status !== to) await store(work, book, ticket, undefined, to, null);
}

async function store(
  work: Work,
  book: HouseBook,
  ticket: { id: string; status: Status; hold_reason: string | null },
  version: number | undefined,
  to: Status,
  holdReason: HoldReason | null,
): Promise<Done> {
  const ended = isEnded(to);
  const changed = await changeRow(work, {
    table: 'ticket',
    id: ticket.id,
    version,
    set: {
      status: to,
      hold_reason: holdReason,
      ...(to === 'resolved' ? { resolved_at: at(work.now), outcome: 'solved' } : {}),
      ...(to === 'closed' ? { closed_at: at(work.now) } : {}),
      ...(!ended ? { resolved_at: null, closed_at: null, outcome: null } : {}),
    },
  });
  if (isRefusal(changed)) return changed;
  await addFacts(work, ticket.id, factsOfMove(ticket.status, to, holdReason, work.now));
  await storeClocks(work, book, ticket.id);
  const reason = holdReason ? `, waiting for the ${holdReason}` : '';
  await work.tell({ subject: 'ticket', id: ticket.id, what: `${to}${reason}`, changes: { status: [ticket.status, to] } });
  return changed;
}

export async function assignTicket(work: Work, ticketId: string, version: number | undefined, personId: string | null): Promise<Done> {
  const person = personId ? await work.tx('person').where({ id: personId, active: true }).first('name') : null;
  if (personId && !person) return refuse('invalid', 'There is no such person.', { personId: 'choose one of the technicians' });
  const was = await work.tx('ticket as t').leftJoin('person as p', 'p.id', 't.assignee_id').where('t.id', ticketId).first('p.name');
  const changed = await changeRow(work, {
    table: 'ticket',
    id: ticketId,
    version,
    set: { assignee_id: personId, changed_at: at(work.now) },
  });
  if (!isRefusal(changed))
    await work.tell({
      subject: 'ticket',
      id: ticketId,
      what: person ? `assigned to ${person.name}` : 'assigned to nobody',
      changes: { assignee: [was?.name ?? null, person?.name ?? null] },
    });
  return changed;
}

/** Changes the facts of a ticket; a new impact or urgency gives a new priority, whose targets hold from now. */
export async function editTicket(work: Work, book: HouseBook, ticketId: string, version: number, edit: TicketEdit): Promise<Done> {
  const ticket = await work.tx('ticket').where({ id: ticketId }).first();
  if (!ticket) return refuse('not-found', 'There is no such ticket.');
  if (edit.clientId) {
    const mismatch = await wrongOwner(work, edit.clientId, edit.contactId, edit.assetId);
    if (mismatch) return mismatch;
  } else if (ticket.kind !== 'unsorted') return refuse('invalid', 'A sorted ticket has a client.', { clientId: 'choose the client' });
  const priority =
    edit.impact && edit.urgency
      ? priorityOf(book.house.matrix, edit.impact, edit.urgency, await isPriorityContact(work, edit.contactId)).priority
      : ticket.priority;
  const set = {
    subject: edit.subject,
    client_id: edit.clientId,
    contact_id: edit.contactId,
    asset_id: edit.assetId,
    desk_id: edit.deskId,
    impact: edit.impact,
    urgency: edit.urgency,
    priority,
  };
  const changed = await changeRow(work, { table: 'ticket', id: ticketId, version, set });
  if (isRefusal(changed)) return changed;
  if (priority !== ticket.priority && priority) await addFacts(work, ticketId, [{ at: work.now, is: 'priority', priority }]);
  await storeClocks(work, book, ticketId);
  const changes = Object.fromEntries(
    Object.entries(set)
      .filter(([k, v]) => ticket[k] !== v)
      .map(([k, v]) => [k, [ticket[k], v] as const]),
  );
  await work.tell({
    subject: 'ticket',
    id: ticketId,
    what:
      priority === ticket.priority
        ? `changed ${
            Object.keys(changes)
              .map((k) => k.replace('_id', ''))
              .join(', ') || 'nothing'
          }`
        : `changed priority from ${ticket.priority} to ${priority}`,
    changes,
  });
  return changed;
}
