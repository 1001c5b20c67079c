import { type HandOver, isEnded } from '@core/desk';
import { type Id, isRefusal, type Outcome, refuse } from '@core/ground';
import { changeRow } from '../../app/change-row';
import type { Work } from '../../app/work';
import { type HouseBook, tellPerson } from '../../house';
import { addNote } from '../messages/write-messages';
import { assignByLine } from '../tickets/assign-by-line';

/** Hands a ticket to another line or desk, with what was tried as an inside note; that line assigns as it does. */
export async function handOver(
  work: Work,
  book: HouseBook,
  {
    ticketId,
    version,
    body: { deskId, line, tried },
  }: { readonly ticketId: Id<'ticket'>; readonly version: number; readonly body: HandOver },
): Promise<Outcome<{ id: Id<'ticket'>; version: number; assignee: string | null }>> {
  const ticket = await work.tx('ticket').where({ id: ticketId }).first();
  if (!ticket) return refuse('not-found', 'There is no such ticket.');
  if (ticket.kind === 'unsorted') return refuse('not-possible-now', 'Sort this ticket in intake first.');
  if (isEnded(ticket.status)) return refuse('not-possible-now', `Ticket ${ticket.number} is ${ticket.status}; reopen it first.`);
  if (ticket.desk_id === deskId && ticket.line === line)
    return refuse('invalid', 'It is with that line already.', { line: 'choose another line or desk' });
  const desk = await work.tx('desk').where({ id: deskId }).first('name');
  const staffed = await work.tx('desk_line').where({ desk_id: deskId, line }).first('desk_id');
  if (!desk || !staffed)
    return refuse('invalid', 'Nobody staffs that line.', { line: `a line of ${desk?.name ?? 'one of the desks'} that is staffed` });
  const { personId } = await assignByLine(work.tx, book, {
    now: work.now,
    question: {
      deskId,
      line,
      categoryId: ticket.category_id,
      clientId: ticket.client_id,
    },
  });
  const person = personId ? await work.tx('person').where({ id: personId }).first('name') : undefined;
  const changed = await changeRow(work, {
    table: 'ticket',
    id: ticketId,
    version,
    set: { desk_id: deskId, line, assignee_id: personId, changed_at: new Date(work.now * 1000) },
  });
  if (isRefusal(changed)) return changed;
  await addNote(work, { ticketId, text: `Handed to ${desk.name}, ${line} line. Tried so far: ${tried}` });
  await work.tell('ticket.handed-over', ticketId, {
    deskId: [ticket.desk_id, deskId],
    desk: desk.name,
    line: [ticket.line, line],
    assigneeId: [ticket.assignee_id, personId],
    assignee: person?.name ?? null,
    tried,
  });
  if (personId && personId !== work.actor.personId)
    await tellPerson(work, { personId, text: `#${ticket.number} ${ticket.subject} was handed to you: ${tried}`, ticketId });
  return { ...changed, assignee: person?.name ?? null };
}
