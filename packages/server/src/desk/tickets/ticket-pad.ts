import { type ClockFact, type ClockReading, IMPACTS, type PadWire, priorityOf, replayClock, URGENCIES } from '@core/desk';
import { formatInstant, type Id, type Instant, type Outcome, refuse } from '@core/ground';
import type { Db } from '../../app/database';
import type { HouseBook } from '../../house';

/** What each impact and urgency would promise, were the ticket routed now. */
export async function readPad(
  db: Db,
  book: HouseBook,
  { ticketId, now }: { readonly ticketId: Id<'ticket'>; readonly now: Instant },
): Promise<Outcome<PadWire>> {
  const t = await db('ticket as t')
    .leftJoin('client as c', 'c.id', 't.client_id')
    .leftJoin('contact as k', 'k.id', 't.contact_id')
    .where('t.id', ticketId)
    .first('t.received_at', 't.promise_version_id', 'c.calendar_id', 'k.priority');
  if (!t) return refuse('not-found', 'There is no such ticket.');
  const promise = book.promise(t.promise_version_id, t.calendar_id);
  const cells = IMPACTS.flatMap((impact) =>
    URGENCIES.map((urgency) => {
      const { priority, explanation } = priorityOf({
        matrix: book.house.tickets.matrix,
        impact,
        urgency,
        priorityContact: t.priority ?? false,
      });
      const facts: ClockFact[] = [
        { at: t.received_at, is: 'received' },
        { at: now, is: 'priority', priority },
      ];
      const read = (clock: 'response' | 'resolution') => replayClock({ clock, promise, facts, now })!;
      const [response, resolution] = [read('response'), read('resolution')];
      return {
        impact,
        urgency,
        priority,
        responseDue: dueOf(response),
        resolutionDue: dueOf(resolution),
        why: [...explanation, ...resolution.explanation],
      };
    }),
  );
  return { cells };
}

function dueOf({ state }: ClockReading): string | null {
  if (state.is === 'running' && state.due !== 'never') return formatInstant(state.due);
  return 'missedAt' in state ? formatInstant(state.missedAt) : null;
}
