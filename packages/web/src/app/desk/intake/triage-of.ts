import type { Line, TicketWire, Triage } from '@core/desk';
import type { Id } from '@core/ground';
import type { Choice } from './intake-choice';

/** What is chosen for a message as the route takes it, or in words what is still to be said first. */
export function triageOf({
  choice,
  ticket,
  deskId,
  line,
}: {
  readonly choice: Choice;
  readonly ticket: TicketWire;
  readonly deskId: Id<'desk'>;
  readonly line: Line;
}): Required<Triage> | string {
  const { impact, urgency, contactId, fields, categoryId, clientId, ...rest } = choice;
  if (!impact || !urgency) return 'Say first who is hit and how badly: press a digit from 1 to 9.';
  if (!clientId) return 'Say first whose ticket this is.';
  if (!categoryId) return 'Say first what it is about: choose a category, by t the one of like tickets.';
  return {
    ...rest,
    clientId,
    categoryId,
    impact,
    urgency,
    deskId,
    line,
    contactId: ticket.contactId ?? contactId,
    fields: Object.entries(fields).map(([fieldId, value]) => ({ fieldId, value })),
    assigneeId: null,
  };
}
