import { actionTimeRoutes } from '@core/desk';
import { refuse } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { readProposedTime } from './read-proposed-time';

export function bindActionTime(app: App) {
  const { house } = app;
  return bindRoutes(app, actionTimeRoutes, {
    getProposedTime: ({ db, params, actor, now }) => readProposedTime(db, house, { personId: actor.personId!, workId: params.workId, now }),
    setUsualActivity: async ({ work, params, body }) => {
      if (body.activityId && !house.activity(body.activityId))
        return refuse('invalid', 'There is no such activity.', { activityId: 'choose one of the activities' });
      const [desk] = await work.tx('desk').where({ id: params.deskId }).update({ usual_activity_id: body.activityId }).returning('name');
      if (!desk) return refuse('not-found', 'There is no such desk.');
      const activity = body.activityId ? house.activity(body.activityId)!.name : null;
      await work.tell('desk.usual-activity-set', params.deskId, { name: desk.name, activityId: body.activityId, activity });
      return {};
    },
  });
}
