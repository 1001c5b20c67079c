import { PRESENCE_SECONDS, presenceRoutes } from '@core/desk';
import { plusSeconds } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { at } from '../../app/database';
import { makeWork } from '../../app/work';

export function bindPresence(app: App) {
  return bindRoutes(app, presenceRoutes, {
    beThere: async ({ db, params, body, actor, now }) =>
      db.transaction(async (tx) => {
        const mine = { ticket_id: params.ticketId, person_id: actor.personId };
        const fresh = at(plusSeconds(now, -PRESENCE_SECONDS));
        const was = await tx('presence').where(mine).where('seen_at', '>', fresh).first('writing');
        if (body.here)
          await tx('presence')
            .insert({ ...mine, seen_at: at(now), writing: body.writing })
            .onConflict(['ticket_id', 'person_id'])
            .merge();
        else await tx('presence').where(mine).delete();
        // Only a change is news: staying is not.
        const changed = body.here ? was?.writing !== body.writing : was !== undefined;
        if (changed) await makeWork({ tx, now, actor, book: app.house }).emit('presence', params.ticketId);
        const others = await tx('presence as s')
          .join('person as p', 'p.id', 's.person_id')
          .where({ ticket_id: params.ticketId })
          .whereNot('person_id', actor.personId)
          .where('seen_at', '>', fresh)
          .orderBy('p.name')
          .select('p.id', 'p.name', 's.writing');
        return { others };
      }),
  });
}
