import { isEnded, type JoinForm, UMBRELLA_HOLD } from '@core/desk';
import { type Id, type Instant, type Outcome, refuse } from '@core/ground';
import { at } from '../../app/database';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { type HouseBook, tellPerson } from '../../house';
import { oweFirstReply } from '../tickets/reply-owed';
import { addFacts, storeClocks } from '../clocks/ticket-clock-store';
import { takeMembersClient } from './members-client';
import { surfaceOn } from '../tickets/surface-owed';

/** Telling the contacts is a matter of its own. */
export type Joining = Omit<JoinForm, 'tell'>;

type TicketRow = Row<
  'ticket',
  | 'id'
  | 'number'
  | 'subject'
  | 'status'
  | 'hold_reason'
  | 'kind'
  | 'assignee_id'
  | 'own_status_id'
  | 'umbrella_id'
  | 'is_umbrella'
  | 'received_at'
>;

/**
 * Puts tickets under an umbrella. Their clocks hold, replies owed on them surface on it, its clocks count from
 * the earliest receipt; bookings and assignees move where that was confirmed. All of them join, or none does.
 */
export async function joinUmbrella(
  work: Work,
  book: HouseBook,
  { umbrellaId, form }: { readonly umbrellaId: Id<'ticket'>; readonly form: Joining },
): Promise<Outcome<{ id: Id<'ticket'>; joined: number }>> {
  const umbrella: TicketRow | undefined = await work.tx('ticket').where({ id: umbrellaId }).forUpdate().first();
  if (!umbrella) return refuse('not-found', 'There is no such ticket.');
  if (!umbrella.is_umbrella) return refuse('not-possible-now', `#${umbrella.number} is no umbrella.`);
  if (isEnded(umbrella.status)) return refuse('not-possible-now', `Umbrella #${umbrella.number} is ${umbrella.status}; reopen it first.`);
  const ids = [...new Set(form.memberIds)];
  const tickets: TicketRow[] = await work.tx('ticket').whereIn('id', ids).orderBy('number').forUpdate();
  const barred = whyNot(tickets, ids);
  if (barred) return barred;
  for (const ticket of tickets) await join(work, book, { umbrella, ticket, moveWork: form.moveWork });
  await countFromEarliest(work, umbrellaId);
  await takeMembersClient(work, book, umbrellaId);
  await surfaceOn(work, umbrellaId);
  await storeClocks(work, book, { ticketId: umbrellaId });
  return { id: umbrellaId, joined: tickets.length };
}

function whyNot(tickets: readonly TicketRow[], ids: readonly string[]): Outcome<never> | undefined {
  if (tickets.length < ids.length)
    return refuse('invalid', 'One of these tickets is not there.', { memberIds: 'choose tickets of the list' });
  for (const t of tickets) {
    const trouble = t.is_umbrella
      ? 'is an umbrella itself'
      : t.umbrella_id
        ? 'is a member of an umbrella already'
        : isEnded(t.status)
          ? `is ${t.status}`
          : undefined;
    if (trouble) return refuse('invalid', `#${t.number} ${trouble}, so it cannot join.`, { memberIds: `#${t.number} ${trouble}` });
  }
  return undefined;
}

async function join(
  work: Work,
  book: HouseBook,
  { umbrella, ticket, moveWork }: { readonly umbrella: TicketRow; readonly ticket: TicketRow; readonly moveWork: boolean },
): Promise<void> {
  const { tx, now } = work;
  await tx('membership').insert({
    umbrella_id: umbrella.id,
    ticket_id: ticket.id,
    joined_at: at(now),
    joined_by: work.actor.personId,
    was: JSON.stringify({
      status: ticket.status,
      holdReason: ticket.hold_reason,
      assigneeId: ticket.assignee_id,
      ownStatusId: ticket.own_status_id,
    }),
  });
  await tx('ticket')
    .where({ id: ticket.id })
    .update({
      umbrella_id: umbrella.id,
      status: 'on hold',
      hold_reason: UMBRELLA_HOLD,
      own_status_id: null,
      changed_at: at(now),
      version: tx.raw('version + 1'),
      ...(moveWork ? { assignee_id: null } : {}),
    });
  await addFacts(work, ticket.id, [{ at: now, is: 'held', reason: UMBRELLA_HOLD }]);
  if (ticket.kind === 'unsorted') await oweFirstReply(work, ticket.id);
  if (moveWork) await moveWorkTo(work, umbrella, ticket);
  await storeClocks(work, book, { ticketId: ticket.id });
  await work.tell('ticket.joined-umbrella', ticket.id, {
    umbrella: { ticketId: umbrella.id, number: umbrella.number },
    was: ticket.status,
  });
  await work.tell('ticket.member-joined', umbrella.id, { member: { ticketId: ticket.id, number: ticket.number }, subject: ticket.subject });
}

async function moveWorkTo(work: Work, umbrella: TicketRow, ticket: TicketRow): Promise<void> {
  const { tx } = work;
  const moved = await tx('booking')
    .where({ ticket_id: ticket.id })
    .whereIn('state', ['planned', 'underway'])
    .update({ work_id: umbrella.id, version: tx.raw('version + 1') })
    .returning('id');
  for (const booking of moved)
    await work.tell('booking.moved-to-umbrella', booking.id, { umbrellaId: umbrella.id, number: umbrella.number });
  if (!ticket.assignee_id) return;
  const [taken] = await tx('ticket')
    .where({ id: umbrella.id })
    .whereNull('assignee_id')
    .update({ assignee_id: ticket.assignee_id })
    .returning('id');
  if (taken || ticket.assignee_id === work.actor.personId) return;
  await tellPerson(work, {
    personId: ticket.assignee_id,
    text: `#${ticket.number} ${ticket.subject} joined umbrella #${umbrella.number}`,
    ticketId: umbrella.id,
  });
}

/** The umbrella counts from the earliest receipt among all members it has had, and of its own. */
async function countFromEarliest(work: Work, umbrellaId: Id<'ticket'>): Promise<void> {
  const row = await work
    .tx('membership as m')
    .join('ticket as t', 't.id', 'm.ticket_id')
    .where('m.umbrella_id', umbrellaId)
    .min('t.received_at as earliest')
    .first();
  const earliest = row?.['earliest'] as Instant | null;
  const umbrella = (await work.tx('ticket').where({ id: umbrellaId }).first('received_at'))!;
  if (earliest === null || earliest >= umbrella.received_at) return;
  await work
    .tx('ticket')
    .where({ id: umbrellaId })
    .update({ received_at: at(earliest) });
  await addFacts(work, umbrellaId, [{ at: work.now, is: 'earlier-receipt', received: earliest }]);
}
