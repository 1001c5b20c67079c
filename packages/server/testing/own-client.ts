import type { Script, World } from './test-server';

/** A client of their own with a contact and a ticket in work, for whom nobody has worked yet. */
export async function ownClient(world: World): Promise<{ readonly clientId: string; readonly ticketId: string }> {
  const made = Number((await world.knex('client').where('name', 'like', 'Brackwater Pilots%').count('id as n').first())!.n);
  const { id: _id, number: _number, ...client } = await world.knex('client').where('name', 'like', 'Brackwater%').first();
  const [{ id: clientId }] = await world
    .knex('client')
    .insert({
      ...client,
      number: 990 + made,
      name: made ? `Brackwater Pilots ${made}` : 'Brackwater Pilots',
      fields: JSON.stringify(client.fields),
    })
    .returning('id');
  await world.knex('contact').insert({ client_id: clientId, name: 'Ada Quill', email: `ada${made || ''}@pilots.example`, priority: false });
  const {
    id: _t,
    number: _n,
    search: _s,
    ...ticket
  } = await world.knex('ticket').where({ kind: 'incident' }).whereNotNull('client_id').orderBy('number').first();
  const row = {
    ...ticket,
    client_id: clientId,
    contact_id: null,
    asset_id: null,
    number: 990_001 + made,
    received_at: '2026-11-16T09:00:00Z',
    changed_at: '2026-11-16T09:00:00Z',
    threading_why: null,
    resolved_at: null,
    closed_at: null,
    closes_at: null,
    due_at: null,
    look_since: null,
    look_at: null,
    no_fee_at: null,
    reply_owed_since: null,
    status: 'queued',
    outcome: null,
    hold_reason: null,
    fields: JSON.stringify(ticket.fields),
  };
  const [{ id: ticketId }] = await world.knex('ticket').insert(row).returning('id');
  return { clientId, ticketId };
}

/** The activity of most work, by its id. */
export async function remoteOf(script: Script): Promise<string> {
  return (await script.do('getHouse')).activities.find((a) => a.name === 'remote')!.id;
}

/** Billable time as it is typed. @param duration "45", or "1:30" */
export function timeForm(
  { workId, activityId }: { readonly workId: string; readonly activityId: string },
  startsAt: string,
  duration: string,
) {
  return { workId, startsAt, duration, activityId, note: 'as worked', billable: true, reason: null } as const;
}
