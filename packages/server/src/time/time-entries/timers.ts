import { type Instant, type Outcome, refuse } from '@core/ground';
import { isEnded } from '@core/desk';
import { at } from '../../app/database';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house/house/house-book';
import { moveByFact } from '../../desk/tickets/move-ticket';

/** Starts or resumes the timer of a ticket. One runs for a person; a running one pauses. */
export async function startTimer(work: Work, book: HouseBook, ticketId: string): Promise<Outcome<{ id: string }>> {
  const personId = work.actor.personId;
  // One after the other: of two that start at once, the later pauses the earlier.
  await work.tx('person').where({ id: personId }).forNoKeyUpdate().first('id');
  const ticket = await work.tx('ticket').where({ id: ticketId }).first('status', 'kind');
  if (!ticket) return refuse('not-found', 'There is no such ticket.');
  await pauseRunning(work);
  const [timer] = await work
    .tx('timer')
    .insert({ person_id: personId, ticket_id: ticketId, started_at: at(work.now), running_since: at(work.now) })
    .onConflict(['person_id', 'ticket_id'])
    .merge({ running_since: at(work.now) })
    .returning('id');
  if (ticket.kind !== 'unsorted' && !isEnded(ticket.status) && ticket.status !== 'underway')
    await moveByFact(work, book, ticketId, 'underway');
  await work.emit('timer', timer.id);
  return timer;
}

async function pauseRunning(work: Work): Promise<void> {
  await work
    .tx('timer')
    .where({ person_id: work.actor.personId })
    .whereNotNull('running_since')
    .update({ counted_seconds: counted(work), running_since: null });
}

function counted(work: Work) {
  return work.tx.raw('counted_seconds + greatest(0, extract(epoch from ?::timestamptz - running_since))::int', [at(work.now)]);
}

export async function pauseTimer(work: Work, timerId: string): Promise<Outcome<{ id: string }>> {
  const [timer] = await work
    .tx('timer')
    .where({ id: timerId, person_id: work.actor.personId })
    .update({
      counted_seconds: work.tx.raw('counted_seconds + coalesce(greatest(0, extract(epoch from ?::timestamptz - running_since)), 0)::int', [
        at(work.now),
      ]),
      running_since: null,
    })
    .returning('id');
  if (!timer) return refuse('not-found', 'You have no such timer.');
  await work.emit('timer', timerId);
  return timer;
}

export async function discardTimer(work: Work, timerId: string): Promise<Outcome<Record<string, never>>> {
  const gone = await work.tx('timer').where({ id: timerId, person_id: work.actor.personId }).delete();
  if (!gone) return refuse('not-found', 'You have no such timer.');
  await work.emit('timer', timerId);
  return {};
}

/** Ends a timer of whoever acts, whose time is recorded by then; nothing happens where there is none. */
export async function endTimer(work: Work, which: { readonly id: string } | { readonly ticket_id: string }): Promise<void> {
  const gone = await work
    .tx('timer')
    .where({ ...which, person_id: work.actor.personId })
    .delete();
  if (gone) await work.emit('timer', 'id' in which ? which.id : null);
}

/** What a timer counted goes to another ticket, and to what stands there; it runs on if it ran. */
export async function moveTimer(work: Work, timerId: string, ticketId: string): Promise<Outcome<{ id: string }>> {
  const timer = await work.tx('timer').where({ id: timerId, person_id: work.actor.personId }).forUpdate().first();
  if (!timer) return refuse('not-found', 'You have no such timer.');
  if (!(await work.tx('ticket').where({ id: ticketId }).first('id')))
    return refuse('invalid', 'There is no such ticket.', { ticketId: 'choose a ticket' });
  if (timer.ticket_id === ticketId) return { id: timerId };
  const there = await work.tx('timer').where({ person_id: work.actor.personId, ticket_id: ticketId }).forUpdate().first();
  if (there) {
    const seconds =
      timer.counted_seconds + there.counted_seconds + (there.running_since === null ? 0 : Math.max(0, work.now - there.running_since));
    const since = timer.running_since ?? (there.running_since === null ? null : work.now);
    await work.tx('timer').where({ id: timerId }).delete();
    await work
      .tx('timer')
      .where({ id: there.id })
      .update({
        counted_seconds: seconds,
        running_since: since === null ? null : at(since),
        started_at: at(Math.min(timer.started_at, there.started_at) as Instant),
      });
  } else await work.tx('timer').where({ id: timerId }).update({ ticket_id: ticketId });
  await work.emit('timer', there?.id ?? timerId);
  return { id: there?.id ?? timerId };
}
