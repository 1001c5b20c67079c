import type { Kind } from '@core/desk';
import type { Id } from '@core/ground';
import type { App } from '../../app/app';
import { at } from '../../app/database';
import { byJob } from '../../app/actor';
import { transact, type Work } from '../../app/work';
import type { HouseBook } from '../../house';
import { storeClocks } from './ticket-clock-store';

const APPLIER = byJob('Drumline');
const AT_ONCE = 100;

export interface PromiseOwner {
  readonly clientId: Id<'client'> | null;
  readonly kind: Kind;
}

/** The newest version of a client's promise, else of the kind's, else of the house's. */
export async function promiseVersionOf(tx: Work['tx'], book: HouseBook, { clientId, kind }: PromiseOwner): Promise<string> {
  const client = clientId ? await tx('client').where({ id: clientId }).first('promise_id') : undefined;
  const own: string | undefined = client?.promise_id ?? book.kindRule(kind).promiseId ?? undefined;
  const house = own ? undefined : await tx('promise_version').where({ id: book.house.promiseVersionId }).first('promise_id');
  const newest = (await tx('promise_version')
    .where({ promise_id: own ?? house!.promise_id })
    .orderBy('version', 'desc')
    .first('id'))!;
  return newest.id;
}

export interface PromiseChange {
  readonly ticketId: Id<'ticket'>;
  readonly was: { readonly versionId: Id<'promise_version'>; readonly calendarId: Id<'calendar'> | null };
  readonly versionId: Id<'promise_version'>;
  readonly calendarId: Id<'calendar'> | null;
}

/**
 * A ticket takes another promise, or its promise on another client's calendar: time counted stays, and the
 * targets change from now on. The clocks are stored by the caller.
 */
export async function changePromise(work: Work, { ticketId, was, versionId, calendarId }: PromiseChange): Promise<void> {
  if (was.versionId === versionId && was.calendarId === calendarId) return;
  await work.tx('ticket').where({ id: ticketId }).update({ promise_version_id: versionId });
  await work.tx('ticket_fact').insert({
    ticket_id: ticketId,
    at: at(work.now),
    fact: 'promise',
    detail: JSON.stringify({ versionId, calendarId, was }),
    written_at: at(work.now),
  });
}

export interface OwnerChange {
  readonly ticketId: Id<'ticket'>;
  readonly promiseVersionId: Id<'promise_version'>;
  readonly from: PromiseOwner;
  readonly to: PromiseOwner;
}

/** A ticket whose client or kind changed takes the promise that is theirs, on the client's calendar. */
export async function followOwner(work: Work, book: HouseBook, change: OwnerChange): Promise<void> {
  const { from, to } = change;
  const promised = (kind: Kind) => book.kindRule(kind).promiseId;
  if (from.clientId === to.clientId && promised(from.kind) === promised(to.kind)) return;
  const calendarOf = async (clientId: Id<'client'> | null): Promise<string | null> =>
    clientId ? ((await work.tx('client').where({ id: clientId }).first('calendar_id'))?.calendar_id ?? null) : null;
  await changePromise(work, {
    ticketId: change.ticketId,
    was: { versionId: change.promiseVersionId, calendarId: await calendarOf(from.clientId) },
    versionId: await promiseVersionOf(work.tx, book, to),
    calendarId: await calendarOf(to.clientId),
  });
}

/** Job: gives a promise's new version to the tickets that are open; run again, it finds none left. */
export async function applyPromise(app: App, { versionId }: { versionId: Id<'promise_version'> }): Promise<void> {
  await app.house.load(app.knex);
  for (;;) {
    const tickets = await app
      .knex('ticket as t')
      .join('promise_version as o', 'o.id', 't.promise_version_id')
      .join('promise_version as n', 'n.promise_id', 'o.promise_id')
      .leftJoin('client as c', 'c.id', 't.client_id')
      .where('n.id', versionId)
      .whereRaw('o.version < n.version')
      .whereNotIn('t.status', ['resolved', 'closed'])
      .orderBy('t.id')
      .limit(AT_ONCE)
      .select('t.id', 't.promise_version_id', 'c.calendar_id');
    if (!tickets.length) return;
    await transact(app, { now: app.clock.now(), actor: APPLIER }, async (work) => {
      for (const t of tickets) {
        const was = { versionId: t.promise_version_id, calendarId: t.calendar_id };
        await changePromise(work, { ticketId: t.id, was, versionId, calendarId: t.calendar_id });
        await storeClocks(work, app.house, { ticketId: t.id });
        await work.tell('ticket.promise-version-taken', t.id, { versionId: [was.versionId, versionId] });
      }
      return {};
    });
  }
}
