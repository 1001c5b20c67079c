import type { Gathered } from '@core/desk';
import { type Id, isRefusal } from '@core/ground';
import type { App } from '../../app/app';
import type { Work } from '../../app/work';
import { mergeTicket } from '../tickets/merge-ticket';
import { relate } from '../relations/relations-routes';

/**
 * A mail showed that several tickets are one talk: those that nobody worked on are merged into the one it joined, which
 * can be taken back there; the others are related, for a person to decide.
 */
export async function gatherTalk(
  app: App,
  work: Work,
  { ticketId, gathered }: { readonly ticketId: Id<'ticket'>; readonly gathered: readonly Gathered[] },
): Promise<void> {
  for (const each of gathered) {
    const merged = each.as === 'double' && !isRefusal(await mergeTicket(work, app.house, { ticketId: each.ticketId, intoId: ticketId }));
    if (merged || !(await relate(work, each.ticketId, ticketId))) continue;
    await work.tell('ticket.related', ticketId, { ticketId: each.ticketId, number: null, asTalk: true });
    await work.tell('ticket.related', each.ticketId, { ticketId, number: null, asTalk: true });
  }
}
