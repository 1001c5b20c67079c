import { refuse } from '@core/ground';
import { viewRoutes } from '@core/house';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { at } from '../../app/database';

export function bindViews(app: App) {
  return bindRoutes(app, viewRoutes, {
    listViews: async ({ db, query, actor }) => {
      const rows = await db('saved_view as v')
        .join('person as p', 'p.id', 'v.person_id')
        .where({ list: query.list })
        .where(
          (w) =>
            void w
              .where('v.reach', 'all')
              .orWhere({ person_id: actor.personId })
              .orWhere(
                (t) => void t.where('v.reach', 'team').whereIn('p.team_id', db('person').where({ id: actor.personId! }).select('team_id')),
              ),
        )
        .orderBy('v.name')
        .select('v.id', 'v.name', 'v.query', 'v.reach', 'v.person_id', 'p.name as by');
      return { views: rows.map(({ person_id, ...view }) => ({ ...view, mine: person_id === actor.personId })) };
    },
    saveView: async ({ work, body, now, actor }) => {
      const [row] = await work
        .tx('saved_view')
        .insert({ ...body, person_id: actor.personId, at: at(now) })
        .onConflict(['list', 'person_id', 'name'])
        .merge(['query', 'reach', 'at'])
        .returning('id');
      await work.emit('view', row!.id);
      return row!;
    },
    removeView: async ({ work, params, actor }) => {
      const gone = await work.tx('saved_view').where({ id: params.viewId, person_id: actor.personId! }).delete();
      if (!gone) return refuse('not-found', 'There is no such view of yours. Who made a view takes it away.');
      await work.emit('view', params.viewId);
      return { id: params.viewId };
    },
  });
}
