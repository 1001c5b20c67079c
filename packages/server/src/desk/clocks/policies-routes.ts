import { clockWire, CLOCK_NAMES, policyRoutes, replayClock, type ClockFact, type PolicyForm, type TryEvent } from '@core/desk';
import { formatInstant, type Outcome, parseInstant, refuse } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { at, type Db } from '../../app/database';
import type { Work } from '../../app/work';

type Done = Outcome<{ id: string; version: number }>;

export function bindPolicies(app: App) {
  return bindRoutes(app, policyRoutes, {
    listPolicies: async ({ db }) => ({ policies: await readPolicies(db) }),
    createPolicy: async ({ work, body }) => {
      const taken = await nameTaken(work, body.name, undefined);
      if (taken) return taken;
      const [policy] = await work.tx('policy').insert({ name: body.name }).returning('id');
      return addVersion(work, policy.id, 1, body);
    },
    editPolicy: async ({ work, params, version, body }) => {
      const policy = await work.tx('policy').where({ id: params.policyId }).forUpdate().first();
      if (!policy) return refuse('not-found', 'There is no such policy.');
      const { v } = (await work.tx('policy_version').where({ policy_id: policy.id }).max('version as v').first()) as { v: number };
      if (v !== version)
        return refuse('changed-meanwhile', `Somebody made version ${v} meanwhile (you saw ${version}). Look at both and choose.`);
      const taken = await nameTaken(work, body.name, policy.id);
      if (taken) return taken;
      await work.tx('policy').where({ id: policy.id }).update({ name: body.name });
      return addVersion(work, policy.id, v + 1, body);
    },
    tryPolicy: async ({ db, body }) => {
      const client = body.clientId ? await db('client').where({ id: body.clientId }).first('calendar_id') : undefined;
      if (body.clientId && !client) return refuse('invalid', 'There is no such client.', { clientId: 'choose a client' });
      const policy = app.house.policyOf({ name: 'this policy', version: 0, ...body.targets }, client?.calendar_id ?? null);
      const facts = body.events.map(factOf);
      const clocks = CLOCK_NAMES.map((name) => replayClock(name, policy, facts, parseInstant(body.now))).filter((r) => r !== undefined);
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

async function nameTaken(work: Work, name: string, policyId: string | undefined): Promise<Outcome<never> | undefined> {
  const other = await work
    .tx('policy')
    .whereRaw('lower(name) = lower(?)', [name])
    .modify((q) => policyId && void q.whereNot({ id: policyId }))
    .first('name');
  return other
    ? refuse('already-used', `There is a policy ${other.name} already.`, { name: 'a name that no other policy has' })
    : undefined;
}

async function addVersion(work: Work, policyId: string, version: number, form: PolicyForm): Promise<Done> {
  const [row] = await work
    .tx('policy_version')
    .insert({ policy_id: policyId, version, targets: JSON.stringify(form.targets), created_at: at(work.now) })
    .returning('id');
  await work.tell('policy.version-made', policyId, { name: form.name, version });
  if (form.applyToOpen && version > 1) await work.enqueue('apply-policy', { versionId: row.id }, `apply-policy:${row.id}`);
  return { id: policyId, version };
}

async function readPolicies(db: Db) {
  const rows = await db('policy as p')
    .join('policy_version as v', 'v.policy_id', 'p.id')
    .whereRaw('v.version = (select max(version) from policy_version where policy_id = p.id)')
    .orderBy('p.name')
    .select(
      'p.id',
      'p.name',
      'v.version',
      'v.targets',
      db.raw('(select count(*) from client c where c.policy_id = p.id and c.archived_at is null) as clients'),
      db.raw(`(select count(*) from ticket t join policy_version o on o.id = t.policy_version_id
        where o.policy_id = p.id and t.status not in ('resolved','closed')) as open_tickets`),
      db.raw(`exists (select 1 from house h join policy_version o on o.id = h.policy_version_id where o.policy_id = p.id) as is_default`),
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
