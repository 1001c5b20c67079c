import type { Proposals, TicketWire } from '@core/desk';
import type { Choice } from './intake-choice';
import type { Joining } from '../umbrellas/under-umbrella';

/** The reports that perhaps have one cause, this one first; for putting under an umbrella. */
export function joiningOf(ticket: TicketWire, thought: Proposals, choice: Choice): readonly Joining[] | undefined {
  if (!thought.sameCause) return undefined;
  const like = { kind: choice.kind, impact: choice.impact ?? null, urgency: choice.urgency ?? null };
  return [
    { id: ticket.id, number: ticket.number, subject: ticket.subject, deskId: thought.desk?.value ?? null, ...like },
    ...thought.sameCause.reports.map((r) => ({ id: r.id, number: r.number, subject: r.subject, kind: choice.kind })),
  ];
}
