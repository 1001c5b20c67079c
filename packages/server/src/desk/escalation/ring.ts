import { escalates, OUT_OF_HOURS } from '@core/desk';
import { type Id, type Instant, plusSeconds } from '@core/ground';
import { at } from '../../app/database';
import type { Work } from '../../app/work';
import { type HouseBook, tellPerson } from '../../house';

export interface Unanswered {
  readonly priority: boolean;
  /** Of the client since our last word. */
  readonly messages: number;
}

/**
 * A client wrote and nobody has answered: rings the on-call person where that is asked for.
 * @param known of a ticket that was just opened
 */
export async function ringWhereNeeded(
  work: Work,
  book: HouseBook,
  { ticketId, known }: { readonly ticketId: Id<'ticket'>; readonly known?: Unanswered },
): Promise<void> {
  const { priority, messages } = known ?? (await unanswered(work, ticketId));
  const why = escalates(book.house.calendar, book.house.onCall.afterMessages, { at: work.now, priorityContact: priority, messages });
  if (!why || (why === OUT_OF_HOURS && (await rings(work, book, ticketId)))) return;
  await ring(work, book, { ticketId, why, people: await onCall(work, work.now), round: 1 });
}

/** Whether somebody is being rung about the ticket and has not taken it yet: more of the same need not ring again. */
async function rings(work: Work, book: HouseBook, ticketId: Id<'ticket'>): Promise<boolean> {
  const since = at(plusSeconds(work.now, -book.house.onCall.againMinutes * 60));
  return Boolean(await work.tx('escalation').where({ ticket_id: ticketId }).whereNull('taken_at').where('at', '>', since).first('id'));
}

async function unanswered(work: Work, ticketId: Id<'ticket'>): Promise<Unanswered> {
  const { rows } = await work.tx.raw(
    `select coalesce((select k.priority from ticket t join contact k on k.id = t.contact_id where t.id = :id), false) as priority,
       (select count(*)::int from message m where m.ticket_id = :id and m.direction = 'in' and m.visibility = 'public' and not m.automatic
       and m.third_party is null and not m.thanks
       and m.seq > coalesce((select max(o.seq) from message o where o.ticket_id = :id and o.visibility = 'public' and o.direction = 'out'
         and not o.automatic and o.left_at is not null), 0)) as messages`,
    { id: ticketId },
  );
  return rows[0];
}

/** Who is on call now; where nobody is, the service managers. */
async function onCall(work: Work, now: Instant): Promise<string[]> {
  const people: string[] = await work
    .tx('on_call as o')
    .join('person as p', 'p.id', 'o.person_id')
    .where('o.starts_at', '<=', at(now))
    .where('o.ends_at', '>', at(now))
    .where('p.active', true)
    .distinct('p.id')
    .pluck('p.id');
  return people.length ? people : managers(work);
}

export function managers(work: Work): Promise<string[]> {
  return work.tx('person').where({ role: 'service manager', active: true }).pluck('id');
}

export interface Ringing {
  readonly ticketId: Id<'ticket'>;
  readonly why: string;
  readonly people: readonly string[];
  /** The first round rings who is on call, the second the managers. */
  readonly round: number;
}

/** Rings people by app and mail; who was told and when is on record. */
export async function ring(work: Work, book: HouseBook, { ticketId, why, people, round }: Ringing): Promise<void> {
  const ticket = (await work.tx('ticket').where({ id: ticketId }).first('number', 'subject'))!;
  const again = round === 1 ? at(plusSeconds(work.now, book.house.onCall.againMinutes * 60)) : null;
  const names: string[] = [];
  for (const personId of people) {
    const [row] = await work
      .tx('escalation')
      .insert({ ticket_id: ticketId, at: at(work.now), why, person_id: personId, round, again_at: again })
      .returning('id');
    await tellPerson(work, { personId, text: `#${ticket.number} ${ticket.subject}: ${why}`, ticketId, urgent: true });
    await work.enqueue('mail-escalation', { escalationId: row!.id }, { key: `mail-escalation:${row!.id}` });
    names.push((await work.tx('person').where({ id: personId }).first('name'))!.name);
  }
  await work.tell('ticket.rang', ticketId, { people: names, why });
}
