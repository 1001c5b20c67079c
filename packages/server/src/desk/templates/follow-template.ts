import { type Id, isRefusal, type Outcome, refuse } from '@core/ground';
import { isSorted, type FieldValues } from '@core/desk';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house';
import { triageTicket } from '../tickets/triage-ticket';
import { putItems } from './put-items';

export interface Following {
  readonly ticketId: Id<'ticket'>;
  readonly clientId: Id<'client'>;
  readonly contactId: Id<'contact'>;
  readonly fields: FieldValues;
}

/** Does what a template says with a ticket that was just opened: its checklist, and its routing where it says all of that. */
export async function followTemplate(
  work: Work,
  book: HouseBook,
  { templateId, ticket }: { readonly templateId: Id<'ticket_template'>; readonly ticket: Following },
): Promise<Outcome<{ routed: boolean }>> {
  const row = await work.tx('ticket_template').where({ id: templateId }).whereNull('archived_at').first();
  if (!row) return refuse('invalid', 'There is no such template.', { templateId: 'choose one of the templates' });
  await putItems(work, ticket.ticketId, row.checklist);
  const sorting = {
    kind: row.kind,
    impact: row.impact,
    urgency: row.urgency,
    categoryId: row.category_id,
    deskId: row.desk_id,
    line: row.line,
  };
  if (!isSorted(sorting)) return { routed: false };
  const routed = await triageTicket(work, book, {
    ticketId: ticket.ticketId,
    version: undefined,
    triage: { ...sorting, ...ticket, assetId: null, assigneeId: null },
  });
  return isRefusal(routed) ? routed : { routed: true };
}
