import { actionTimeRoutes } from '@core/desk';
import { refuse } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { HOUSE_STORY } from '../../house/house/house-story';
import { readProposedTime } from './read-proposed-time';

export function bindActionTime(app: App) {
  const { house } = app;
  return bindRoutes(app, actionTimeRoutes, {
    getProposedTime: ({ db, params, actor, now }) =>
      readProposedTime(db, house, { personId: actor.personId!, ticketId: params.ticketId }, now),
    setUsualActivity: async ({ work, params, body }) => {
      if (body.activityId && !house.activity(body.activityId))
        return refuse('invalid', 'There is no such activity.', { activityId: 'choose one of the activities' });
      const [desk] = await work.tx('desk').where({ id: params.deskId }).update({ usual_activity_id: body.activityId }).returning('name');
      if (!desk) return refuse('not-found', 'There is no such desk.');
      const usual = body.activityId ? house.activity(body.activityId)!.name : 'what each person does';
      await work.tell({ subject: 'house', id: HOUSE_STORY, what: `set what work of ${desk.name} usually is to ${usual}` });
      return {};
    },
  });
}
