import { followerRoutes } from '@core/desk';
import { refuse } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { follow, readFollowers, unfollow } from './followers';

export function bindFollowers(app: App) {
  return bindRoutes(app, followerRoutes, {
    follow: async ({ work, params, body, actor }) => {
      const ticket = await work.tx('ticket').where({ id: params.ticketId }).first('id');
      if (!ticket) return refuse('not-found', 'There is no such ticket.');
      await (body.follows ? follow : unfollow)(work, params.ticketId, actor.personId!);
      await work.emit('ticket', params.ticketId);
      return { followers: await readFollowers(work.tx, params.ticketId) };
    },
  });
}
