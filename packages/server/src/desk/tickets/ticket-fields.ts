import { type Id, isRefusal, type Outcome, refuse } from '@core/ground';
import type { FieldValues } from '@core/desk';
import { changeRow } from '../../app/change-row';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house';
import { fieldChanges, readFields } from '../own-fields/record-fields';

/** Fills own fields of a ticket; those not named stay. */
export async function setTicketFields(
  work: Work,
  book: HouseBook,
  { ticketId, version, given }: { readonly ticketId: Id<'ticket'>; readonly version: number | undefined; readonly given: FieldValues },
): Promise<Outcome<{ id: Id<'ticket'>; version: number }>> {
  const ticket = await work.tx('ticket').where({ id: ticketId }).first('fields', 'client_id');
  if (!ticket) return refuse('not-found', 'There is no such ticket.');
  const values = await readFields(work, book, { on: 'ticket', given, was: ticket.fields, clientId: ticket.client_id });
  if (isRefusal(values)) return values;
  const changed = await changeRow(work, { table: 'ticket', id: ticketId, version, set: { fields: JSON.stringify(values) } });
  if (isRefusal(changed)) return changed;
  await work.tell('ticket.fields-filled', ticketId, { values: fieldChanges(book, { on: 'ticket', was: ticket.fields, now: values }) });
  return changed;
}
