import type { ChecklistAnswer } from '@core/desk';
import { type Id, type Outcome, parseInstant, refuse } from '@core/ground';
import { at, countOf } from '../../app/database';
import type { Work } from '../../app/work';

export interface ChecklistForm {
  readonly text: string;
  readonly ownerId: Id<'person'> | null;
  readonly dueAt: string | null;
}

/** Adds something to do; with an owner and a time it stands in that person's day. */
export async function addChecklistItem(
  work: Work,
  ticketId: Id<'ticket'>,
  form: ChecklistForm,
): Promise<Outcome<{ id: Id<'checklist_item'> }>> {
  const ticket = await work.tx('ticket').where({ id: ticketId }).first('id');
  if (!ticket) return refuse('not-found', 'There is no such ticket.');
  const owner = form.ownerId ? await work.tx('person').where({ id: form.ownerId, active: true }).first('name') : undefined;
  if (form.ownerId && !owner) return refuse('invalid', 'There is no such person.', { ownerId: 'choose one of the people' });
  const n = await countOf(work.tx('checklist_item').where({ ticket_id: ticketId }));
  const [item] = await work
    .tx('checklist_item')
    .insert({
      work_id: ticketId,
      position: n,
      text: form.text,
      owner_id: form.ownerId,
      due_at: form.dueAt ? at(parseInstant(form.dueAt)) : null,
    })
    .returning('id');
  await work.tell('ticket.checklist-item-added', ticketId, { item: form.text, owner: owner?.name ?? null });
  return { id: item!.id };
}

export async function answerChecklistItem(
  work: Work,
  itemId: string,
  answer: ChecklistAnswer | null,
): Promise<Outcome<{ id: Id<'checklist_item'> }>> {
  const [item] = await work
    .tx('checklist_item')
    .where({ id: itemId })
    .update({ answer, answered_at: answer ? at(work.now) : null })
    .returning(['id', 'ticket_id', 'text']);
  if (!item) return refuse('not-found', 'There is no such checklist item.');
  await work.tell('ticket.checklist-item-answered', item.ticket_id!, { item: item.text, answer });
  return { id: item.id };
}
