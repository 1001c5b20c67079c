import { isRefusal, refuse, type Outcome } from '@core/outcome';
import { isEnded } from '@core/tickets';
import { dateOf, parseInstant, parseMinutes, plusSeconds } from '@core/time';
import type { EntryForm } from '@core/time-entries';
import { at } from '../app/database';
import { changeRow } from '../app/change-row';
import type { Work } from '../app/work';
import { chargeEntry, isFrozen } from '../charges/charge-entry';
import { fitBookings } from '../dispatch/fit-bookings';
import type { HouseBook } from '../house/house-book';
import { refuseClosed } from './close-days';
import { moveByFact } from '../tickets/move-ticket';

type Done = Outcome<{ id: string; version: number }>;
const FROZEN = 'Its charge was decided on already. Take that decision back in charge review first.';

interface EntryRow {
  readonly ticket_id: string | null;
  readonly client_id: string | null;
  readonly starts_at: string;
  readonly ends_at: string;
  readonly minutes: number;
  readonly activity_id: string;
  readonly note: string | null;
  readonly billable: boolean;
  readonly reason: string | null;
}

async function readForm(work: Work, book: HouseBook, form: EntryForm): Promise<Outcome<EntryRow>> {
  const minutes = parseMinutes(form.duration)!;
  const from = parseInstant(form.startsAt);
  if (from > work.now) return refuse('invalid', 'Time is recorded once it is worked.', { startsAt: 'not in the future' });
  if (!book.activity(form.activityId))
    return refuse('invalid', 'There is no such activity.', { activityId: 'choose one of the activities' });
  const closed = await refuseClosed(work, [dateOf(from, book.house.zone)]);
  if (closed) return closed;
  const ticket = form.ticketId ? await work.tx('ticket').where({ id: form.ticketId }).first('client_id') : null;
  if (form.ticketId && !ticket) return refuse('invalid', 'There is no such ticket.', { ticketId: 'choose a ticket' });
  return {
    ticket_id: form.ticketId,
    client_id: ticket?.client_id ?? null,
    starts_at: at(from),
    ends_at: at(plusSeconds(from, minutes * 60)),
    minutes,
    activity_id: form.activityId,
    note: form.note,
    billable: form.billable,
    reason: form.billable ? null : form.reason,
  };
}

/** Records time worked; what it charges is proposed in the same transaction. */
export async function addEntry(work: Work, book: HouseBook, form: EntryForm): Promise<Done> {
  const row = await readForm(work, book, form);
  if (isRefusal(row)) return row;
  const person = await work.tx('person').where({ id: work.actor.personId }).first('grade_id');
  if (!person?.grade_id) return refuse('not-possible-now', 'You have no grade, so your time has no rate. Ask an administrator for one.');
  const [entry] = await work
    .tx('time_entry')
    .insert({ ...row, person_id: work.actor.personId, grade_id: person.grade_id })
    .returning(['id', 'version']);
  await chargeEntry(work, book, entry.id);
  await fitBookings(work, book.house.zone, { ticketId: row.ticket_id, personId: work.actor.personId });
  await work.tell({ subject: 'entry', id: entry.id, what: `recorded ${row.minutes} min` });
  if (row.ticket_id) await work.tell({ subject: 'ticket', id: row.ticket_id, what: `recorded ${row.minutes} min`, detail: row.note });
  return entry;
}

export async function editEntry(work: Work, book: HouseBook, entryId: string, version: number, form: EntryForm): Promise<Done> {
  const entry = await ownEntry(work, book, entryId);
  if (isRefusal(entry)) return entry;
  const row = await readForm(work, book, form);
  if (isRefusal(row)) return row;
  const changed = await changeRow(work, { table: 'time_entry', id: entryId, version, set: row as unknown as Record<string, unknown> });
  if (isRefusal(changed)) return changed;
  await chargeEntry(work, book, entryId);
  // A changed entry may have left one ticket for another.
  for (const ticketId of new Set([entry.ticket_id, row.ticket_id]))
    await fitBookings(work, book.house.zone, { ticketId, personId: work.actor.personId });
  await work.tell({
    subject: 'entry',
    id: entryId,
    what: `changed to ${row.minutes} min`,
    changes: { minutes: [entry.minutes, row.minutes] },
  });
  if (row.ticket_id) await work.emit('ticket', row.ticket_id);
  return changed;
}

export async function removeEntry(work: Work, book: HouseBook, entryId: string, version: number): Promise<Outcome<Record<string, never>>> {
  const entry = await ownEntry(work, book, entryId);
  if (isRefusal(entry)) return entry;
  const changed = await changeRow(work, { table: 'time_entry', id: entryId, version, set: { removed_at: at(work.now) } });
  if (isRefusal(changed)) return changed;
  await chargeEntry(work, book, entryId);
  await fitBookings(work, book.house.zone, { ticketId: entry.ticket_id, personId: work.actor.personId });
  await work.tell({ subject: 'entry', id: entryId, what: 'removed' });
  if (entry.ticket_id) await work.tell({ subject: 'ticket', id: entry.ticket_id, what: `removed ${entry.minutes} min` });
  return {};
}

async function ownEntry(work: Work, book: HouseBook, entryId: string): Promise<Outcome<{ minutes: number; ticket_id: string | null }>> {
  const entry = await work
    .tx('time_entry')
    .where({ id: entryId })
    .whereNull('removed_at')
    .first('person_id', 'minutes', 'ticket_id', 'starts_at');
  if (!entry) return refuse('not-found', 'There is no such time entry.');
  if (entry.person_id !== work.actor.personId) return refuse('not-allowed', 'Time is changed by the one who recorded it.');
  const closed = await refuseClosed(work, [dateOf(entry.starts_at, book.house.zone)]);
  if (closed) return closed;
  return (await isFrozen(work, entryId)) ? refuse('not-possible-now', FROZEN) : entry;
}

/** Starts or resumes the timer of a ticket. One runs for a person; a running one pauses. */
export async function startTimer(work: Work, book: HouseBook, ticketId: string): Promise<Outcome<{ id: string }>> {
  const ticket = await work.tx('ticket').where({ id: ticketId }).first('status', 'kind');
  if (!ticket) return refuse('not-found', 'There is no such ticket.');
  await pauseRunning(work);
  const personId = work.actor.personId;
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

/** Turns a timer into a time entry that ends now, and ends the timer. */
export async function logTimer(
  work: Work,
  book: HouseBook,
  timerId: string,
  form: { activityId: string; note: string | null; duration: string },
): Promise<Done> {
  const timer = await work.tx('timer').where({ id: timerId, person_id: work.actor.personId }).first('ticket_id');
  if (!timer) return refuse('not-found', 'You have no such timer.');
  const startsAt = at(plusSeconds(work.now, -parseMinutes(form.duration)! * 60));
  const entry = await addEntry(work, book, {
    ticketId: timer.ticket_id,
    startsAt,
    duration: form.duration,
    activityId: form.activityId,
    note: form.note,
    billable: true,
    reason: null,
  });
  if (isRefusal(entry)) return entry;
  await work.tx('timer').where({ id: timerId }).delete();
  await work.emit('timer', timerId);
  return entry;
}
