import { changesOf, holds, type Id, type Instant, isRefusal, type Outcome, type Refusal, refuse } from '@core/ground';
import { CHECKED_MOVES, type HoldReason, moveStatus, priorityOf, type Status, type TicketEdit } from '@core/desk';
import { at } from '../../app/database';
import { changeRow } from '../../app/change-row';
import type { HouseBook } from '../../house';
import { followOwner } from '../clocks/take-promise';
import { whoColumns } from '../../app/actor';
import type { Work } from '../../app/work';
import { tellFollowers } from '../followers/followers';
import { readObstacles } from './closing';
import { ownStatusOf } from '../statuses/own-status-of';
import { refuseMember } from './refuse-member';
import { storeMove } from './store-move';
import { addFacts, storeClocks } from '../clocks/ticket-clock-store';
import { isPriorityContact, wrongOwner } from './triage-ticket';

type Done = Outcome<{ id: Id<'ticket'>; version: number }>;

export interface AskedMove {
  readonly ticketId: Id<'ticket'>;
  readonly version: number | undefined;
  readonly to: Status;
  readonly holdReason: HoldReason | null;
  /** The status under the house's own name. */
  readonly ownStatusId?: Id<'own_status'> | null;
  /** Why it is resolved though something stands in the way. */
  readonly override?: string | null;
}

/** Moves a ticket to a status that a person asked for. Closing checks hold for every way in. */
export async function setStatus(work: Work, book: HouseBook, asked: AskedMove): Promise<Done> {
  const { ticketId, version, to } = asked;
  const ticket = await work.tx('ticket').where({ id: ticketId }).first();
  if (!ticket) return refuse('not-found', 'There is no such ticket.');
  const member = await refuseMember(work, ticket);
  if (member) return member;
  if (ticket.merged_into_id) return refuse('not-possible-now', 'It is merged into another; take the merge back instead.');
  if (ticket.kind === 'unsorted') return refuse('not-possible-now', 'Sort this ticket in intake first.');
  const own = await ownStatusOf(work, asked.ownStatusId ?? null, to);
  if (isRefusal(own)) return own;
  const holdReason = own ? own.waitsFor : asked.holdReason;
  const renamed = ticket.own_status_id !== (own?.id ?? null) || ticket.hold_reason !== holdReason;
  const move = moveStatus({ from: ticket.status, to, holdReason, at: work.now, renamed });
  if (isRefusal(move)) return move;
  const barred = await closingChecks(work, book, { ticketId, to, override: asked.override ?? null });
  if (barred) return barred;
  const moved = await storeMove(work, book, { ticket, version, to, holdReason: move.holdReason, own, when: work.now });
  if (!isRefusal(moved)) await tellFollowers(work, { ticketId, what: `${own?.name ?? to}, by ${work.actor.name}` });
  return moved;
}

/** Refuses where something stands in the way, unless one who may says why it should not. */
async function closingChecks(
  work: Work,
  book: HouseBook,
  { ticketId, to, override }: { readonly ticketId: Id<'ticket'>; readonly to: Status; readonly override: string | null },
): Promise<Refusal | undefined> {
  const move = CHECKED_MOVES.find((m) => m === to);
  const obstacles = await readObstacles(work.tx, book, { ticketId, now: work.now, moves: move ? [move] : [] });
  if (!obstacles.length) return undefined;
  const words = obstacles.map((o) => o.what).join('; ');
  if (!override) return refuse('not-possible-now', `Something stands in the way before it is ${to}: ${words}.`);
  if (!work.actor.role || !holds(work.actor.role, 'tickets.override'))
    return refuse('not-allowed', `The access role ${work.actor.role} may not move tickets past closing checks (${words}).`);
  await work.tx('closing_override').insert({
    ticket_id: ticketId,
    at: at(work.now),
    ...whoColumns(work.actor),
    reason: override,
    obstacles: JSON.stringify(obstacles),
  });
  await work.tell('ticket.checks-passed-over', ticketId, { to, reason: override, obstacles: words });
  return undefined;
}

/**
 * Moves a ticket because a fact says so (a booking, a timer, a client's reply), not because a person chose a
 * status. A member stays on hold with its umbrella, whatever happens on it.
 */
export async function moveByFact(
  work: Work,
  book: HouseBook,
  { ticketId, to, when = work.now }: { readonly ticketId: Id<'ticket'>; readonly to: Status; readonly when?: Instant },
): Promise<void> {
  const ticket = await work.tx('ticket').where({ id: ticketId }).first();
  if (!ticket || ticket.status === to || ticket.umbrella_id) return;
  await storeMove(work, book, { ticket, version: undefined, to, holdReason: null, when });
}

export async function assignTicket(
  work: Work,
  {
    ticketId,
    version,
    personId,
  }: { readonly ticketId: Id<'ticket'>; readonly version: number | undefined; readonly personId: Id<'person'> | null },
): Promise<Done> {
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
    await work.tell('ticket.assigned', ticketId, { assigneeId: personId, assignee: [was?.name ?? null, person?.name ?? null] });
  return changed;
}

/** Changes the facts of a ticket; a new impact or urgency gives a new priority, whose targets hold from now. */
export async function editTicket(
  work: Work,
  book: HouseBook,
  { ticketId, version, edit }: { readonly ticketId: Id<'ticket'>; readonly version: number; readonly edit: TicketEdit },
): Promise<Done> {
  const ticket = await work.tx('ticket').where({ id: ticketId }).first();
  if (!ticket) return refuse('not-found', 'There is no such ticket.');
  if (ticket.kind !== 'unsorted' && ticket.client_id && edit.clientId !== ticket.client_id)
    return refuse('invalid', 'A sorted ticket is moved to another client with a look at what that shows to whom.', {
      clientId: 'move it to another client instead',
    });
  if (edit.clientId) {
    const mismatch = await wrongOwner(work, { clientId: edit.clientId, contactId: edit.contactId, assetId: edit.assetId });
    if (mismatch) return mismatch;
  } else if (ticket.kind !== 'unsorted' && !ticket.is_umbrella)
    return refuse('invalid', 'A sorted ticket has a client.', { clientId: 'choose the client' });
  const priority =
    edit.impact && edit.urgency
      ? priorityOf({
          matrix: book.house.tickets.matrix,
          impact: edit.impact,
          urgency: edit.urgency,
          priorityContact: await isPriorityContact(work, edit.contactId),
        }).priority
      : ticket.priority;
  const set = {
    subject: edit.subject,
    client_id: edit.clientId,
    contact_id: edit.contactId,
    asset_id: edit.assetId,
    category_id: edit.categoryId,
    impact: edit.impact,
    urgency: edit.urgency,
    priority,
  };
  const changed = await changeRow(work, { table: 'ticket', id: ticketId, version, set });
  if (isRefusal(changed)) return changed;
  await followOwner(work, book, {
    ticketId,
    promiseVersionId: ticket.promise_version_id,
    from: { clientId: ticket.client_id, kind: ticket.kind },
    to: { clientId: edit.clientId, kind: ticket.kind },
  });
  if (priority !== ticket.priority && priority) await addFacts(work, ticketId, [{ at: work.now, is: 'priority', priority }]);
  await storeClocks(work, book, { ticketId });
  await work.tell('ticket.changed', ticketId, { priority: [ticket.priority, priority], changes: changesOf(ticket, set) });
  return changed;
}
