import { escalationRoutes } from '@core/desk';
import { formatInstant, refuse } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { at, wireAt } from '../../app/database';
import { HOUSE_STORY } from '../../house';

export function bindEscalation(app: App) {
  return bindRoutes(app, escalationRoutes, {
    getEscalationSetup: async ({ db, now }) => {
      const onCall = await db('on_call as o')
        .join('person as p', 'p.id', 'o.person_id')
        .where('o.ends_at', '>', at(now))
        .orderBy('o.starts_at')
        .limit(100)
        .select('o.*', 'p.name');
      return {
        settings: app.house.house.onCall,
        onCall: onCall.map((o) => ({
          id: o.id,
          personId: o.person_id,
          person: o.name,
          startsAt: formatInstant(o.starts_at),
          endsAt: formatInstant(o.ends_at),
        })),
        thirdParties: await db('third_party').orderBy('name').select('id', 'name', 'address'),
      };
    },
    setEscalation: async ({ work, body }) => {
      await work.tx('on_call_settings').update({ after_messages: body.afterMessages, again_minutes: body.againMinutes });
      await work.tell('setup.escalation-changed', HOUSE_STORY, { afterMessages: body.afterMessages, againMinutes: body.againMinutes });
      return {};
    },
    addOnCall: async ({ work, body }) => {
      const person = await work.tx('person').where({ id: body.personId, active: true }).first('name');
      if (!person) return refuse('invalid', 'There is no such person.', { personId: 'choose one of the people' });
      const [row] = await work
        .tx('on_call')
        .insert({ person_id: body.personId, starts_at: body.startsAt, ends_at: body.endsAt })
        .returning('id');
      await work.tell('setup.on-call-added', row!.id, { personId: body.personId, person: person.name });
      return { id: row!.id };
    },
    removeOnCall: async ({ work, params }) => {
      const gone = await work.tx('on_call').where({ id: params.onCallId }).delete();
      if (!gone) return refuse('not-found', 'There is no such span on call.');
      await work.tell('setup.on-call-removed', params.onCallId, {});
      return {};
    },
    addThirdParty: async ({ work, body }) => {
      const there = await work.tx('third_party').where({ address: body.address }).first('name');
      if (there) return refuse('invalid', `${body.address} is ${there.name} already.`, { address: 'another domain or address' });
      const own = body.address.split('@').at(-1)!;
      const client = await work.tx('client').whereRaw('domains @> array[?]', [own]).first('name');
      if (client) return refuse('invalid', `${own} is the domain of ${client.name}, a client.`, { address: 'a domain of no client' });
      const [row] = await work.tx('third_party').insert(body).returning('id');
      await work.tell('setup.third-party-added', row!.id, { name: body.name });
      return { id: row!.id };
    },
    removeThirdParty: async ({ work, params }) => {
      const gone = await work.tx('third_party').where({ id: params.thirdPartyId }).delete();
      if (!gone) return refuse('not-found', 'There is no such third party.');
      await work.tell('setup.third-party-removed', params.thirdPartyId, {});
      return {};
    },
    listEscalations: async ({ db, params }) => {
      const rows = await db('escalation as e')
        .join('person as p', 'p.id', 'e.person_id')
        .where({ ticket_id: params.ticketId })
        .orderBy('e.at', 'desc')
        .limit(50)
        .select('e.*', 'p.name');
      return {
        escalations: rows.map((e) => ({
          id: e.id,
          at: formatInstant(e.at),
          why: e.why,
          person: e.name,
          mailedAt: wireAt(e.mailed_at),
          takenAt: wireAt(e.taken_at),
        })),
      };
    },
    takeEscalation: async ({ work, params, now }) => {
      // Whoever has it, all who were rung may rest.
      const taken = await work
        .tx('escalation')
        .where({ ticket_id: params.ticketId })
        .whereNull('taken_at')
        .update({ taken_at: at(now), again_at: null });
      await work.tell('ticket.ringing-taken', params.ticketId, {});
      return { taken };
    },
    lookedAt: async ({ work, params }) => {
      const owed = await work.tx('ticket').where({ id: params.ticketId }).whereNotNull('look_since').forUpdate().first('look_is');
      if (!owed) return { id: null };
      await work.tx('ticket').where({ id: params.ticketId }).update({ look_since: null, look_is: null, look_at: null });
      await work.tell('ticket.looked-at', params.ticketId, { look: owed.look_is! });
      return { id: params.ticketId };
    },
  });
}
