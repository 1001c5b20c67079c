import type { ClientPromise } from '@core/clients';
import { type Id, isRefusal, type Outcome, refuse } from '@core/ground';
import { changeRow } from '../../app/change-row';
import { at } from '../../app/database';
import type { Work } from '../../app/work';
import { changePromise, promiseVersionOf, storeClocks } from '../../desk';
import type { HouseBook } from '../../house';

/**
 * Gives a client a promise and a calendar. A new calendar counts from now on for each of their tickets, also
 * for those that have ended and may reopen: every one keeps what it had until now. Open tickets keep their
 * promise unless asked.
 */
export async function setPromise(
  work: Work,
  book: HouseBook,
  {
    clientId,
    version,
    body: { promiseId, calendarId, applyToOpen },
  }: { readonly clientId: Id<'client'>; readonly version: number; readonly body: ClientPromise },
): Promise<Outcome<{ id: Id<'client'>; version: number }>> {
  const was = await work.tx('client').where({ id: clientId }).forUpdate().first('name', 'calendar_id', 'promise_id');
  if (!was) return refuse('not-found', 'There is no such client.');
  const promise = promiseId ? await work.tx('promise').where({ id: promiseId }).first('name') : undefined;
  if (promiseId && !promise) return refuse('invalid', 'There is no such promise.', { promiseId: 'choose one of the promises' });
  const calendar = calendarId ? await work.tx('calendar').where({ id: calendarId }).first('name') : undefined;
  if (calendarId && !calendar) return refuse('invalid', 'There is no such calendar.', { calendarId: 'choose one of the calendars' });
  const changed = await changeRow(work, {
    table: 'client',
    id: clientId,
    version,
    set: { promise_id: promiseId, calendar_id: calendarId },
  });
  if (isRefusal(changed)) return changed;
  if (was.calendar_id !== calendarId) await countOn(work, { clientId, from: was.calendar_id, to: calendarId });
  const open = await work
    .tx('ticket')
    .where({ client_id: clientId })
    .whereNotIn('status', ['resolved', 'closed'])
    .orderBy('number')
    .select('id', 'kind', 'promise_version_id');
  for (const t of open) {
    if (applyToOpen) {
      const versionId = await promiseVersionOf(work.tx, book, { clientId, kind: t.kind });
      await changePromise(work, { ticketId: t.id, was: { versionId: t.promise_version_id, calendarId }, versionId, calendarId });
    }
    await storeClocks(work, book, { ticketId: t.id, touch: false });
    await work.emit('ticket', t.id);
  }
  await work.tell('client.promise-set', clientId, {
    promiseId: [was.promise_id, promiseId],
    promise: promise?.name ?? null,
    calendarId: [was.calendar_id, calendarId],
    calendar: calendar?.name ?? null,
    openTicketsToo: applyToOpen,
  });
  return changed;
}

/** Every ticket of the client counts on another calendar from now on, under the promise that it has. */
async function countOn(
  work: Work,
  { clientId, from, to }: { readonly clientId: Id<'client'>; readonly from: string | null; readonly to: string | null },
): Promise<void> {
  await work.tx.raw(
    `insert into ticket_fact (ticket_id, at, fact, detail, written_at)
     select id, :now, 'promise', jsonb_build_object(
       'versionId', promise_version_id, 'calendarId', :to::uuid,
       'was', jsonb_build_object('versionId', promise_version_id, 'calendarId', :from::uuid)), :now
     from ticket where client_id = :clientId`,
    { now: at(work.now), from, to, clientId },
  );
}
