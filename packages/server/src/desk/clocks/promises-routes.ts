import { clockWire, CLOCK_NAMES, promiseRoutes, replayClock, type ClockFact, type PromiseForm, type TryEvent } from '@core/desk';
import { formatInstant, type Id, type Outcome, parseInstant, refuse } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { at, type Db } from '../../app/database';
import type { Work } from '../../app/work';

type Done = Outcome<{ id: string; version: number }>;

export function bindPromises(app: App) {
  return bindRoutes(app, promiseRoutes, {
    listPromises: async ({ db }) => ({ promises: await readPromises(db) }),
    createPromise: async ({ work, body }) => {
      const taken = await nameTaken(work, body.name, undefined);
      if (taken) return taken;
      const [promise] = await work.tx('promise').insert({ name: body.name }).returning('id');
      return addVersion(work, { promiseId: promise!.id, version: 1, form: body });
    },
    editPromise: async ({ work, params, version, body }) => {
      const promise = await work.tx('promise').where({ id: params.promiseId }).forUpdate().first();
      if (!promise) return refuse('not-found', 'There is no such promise.');
      const newest = (await work.tx('promise_version').where({ promise_id: promise.id }).orderBy('version', 'desc').first('version'))!;
      if (newest.version !== version)
        return refuse(
          'changed-meanwhile',
          `Somebody made version ${newest.version} meanwhile (you saw ${version}). Look at both and choose.`,
        );
      const taken = await nameTaken(work, body.name, promise.id);
      if (taken) return taken;
      await work.tx('promise').where({ id: promise.id }).update({ name: body.name });
      return addVersion(work, { promiseId: promise.id, version: newest.version + 1, form: body });
    },
    tryPromise: async ({ db, body }) => {
      const client = body.clientId ? await db('client').where({ id: body.clientId }).first('calendar_id') : undefined;
      if (body.clientId && !client) return refuse('invalid', 'There is no such client.', { clientId: 'choose a client' });
      const promise = app.house.promiseOf({ name: 'this promise', version: 0, ...body.targets }, client?.calendar_id ?? null);
      const facts = body.events.map(factOf);
      const clocks = CLOCK_NAMES.map((name) => replayClock({ clock: name, promise, facts, now: parseInstant(body.now) })).filter(
        (r) => r !== undefined,
      );
      return {
        clocks: clocks.map((reading) => ({
          clock: clockWire(reading),
          segments: reading.segments.map((s) => ({ ...s, from: formatInstant(s.from), to: formatInstant(s.to) })),
        })),
      };
    },
  });
}

function factOf(event: TryEvent): ClockFact {
  const at = parseInstant(event.at);
  if (event.is === 'priority') return { at, is: 'priority', priority: event.priority ?? 'P3' };
  if (event.is === 'held') return { at, is: 'held', reason: event.reason ?? 'client' };
  return { at, is: event.is };
}

async function nameTaken(work: Work, name: string, promiseId: Id<'promise'> | undefined): Promise<Outcome<never> | undefined> {
  const other = await work
    .tx('promise')
    .whereRaw('lower(name) = lower(?)', [name])
    .modify((q) => promiseId && void q.whereNot({ id: promiseId }))
    .first('name');
  return other
    ? refuse('already-used', `There is a promise ${other.name} already.`, { name: 'a name that no other promise has' })
    : undefined;
}

async function addVersion(
  work: Work,
  { promiseId, version, form }: { readonly promiseId: Id<'promise'>; readonly version: number; readonly form: PromiseForm },
): Promise<Done> {
  const [row] = await work
    .tx('promise_version')
    .insert({ promise_id: promiseId, version, targets: JSON.stringify(form.targets), created_at: at(work.now) })
    .returning('id');
  await work.tell('promise.version-made', promiseId, { name: form.name, version });
  if (form.applyToOpen && version > 1) await work.enqueue('apply-promise', { versionId: row!.id }, { key: `apply-promise:${row!.id}` });
  return { id: promiseId, version };
}

async function readPromises(db: Db) {
  const rows = await db('promise as p')
    .join('promise_version as v', 'v.promise_id', 'p.id')
    .whereRaw('v.version = (select max(version) from promise_version where promise_id = p.id)')
    .orderBy('p.name')
    .select(
      'p.id',
      'p.name',
      'v.version',
      'v.targets',
      db.raw('(select count(*) from client c where c.promise_id = p.id and c.archived_at is null) as clients'),
      db.raw(`(select count(*) from ticket t join promise_version o on o.id = t.promise_version_id
        where o.promise_id = p.id and t.status not in ('resolved','closed')) as open_tickets`),
      db.raw(
        `exists (select 1 from provider h join promise_version o on o.id = h.promise_version_id where o.promise_id = p.id) as is_default`,
      ),
    );
  return rows.map((r) => ({
    id: r.id,
    version: r.version,
    name: r.name,
    targets: r.targets,
    clients: r.clients,
    openTickets: r.open_tickets,
    isHouseDefault: r.is_default,
  }));
}
