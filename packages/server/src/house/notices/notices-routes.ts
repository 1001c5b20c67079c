import { noticeRoutes } from '@core/house';
import { formatInstant } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { at, countOf } from '../../app/database';

const NEWEST = 50;

export function bindNotices(app: App) {
  return bindRoutes(app, noticeRoutes, {
    listNotices: async ({ db, actor }) => {
      const mine = () => db('notice').where({ person_id: actor.personId! });
      const rows = await mine().orderBy('at', 'desc').limit(NEWEST);
      const n = await countOf(mine().whereNull('seen_at'));
      return {
        notices: rows.map((r) => ({
          id: r.id,
          at: formatInstant(r.at),
          text: r.text,
          ticketId: r.ticket_id,
          seen: r.seen_at !== null,
          urgent: r.urgent,
        })),
        unseen: n,
      };
    },
    seeNotices: async ({ work, actor, now }) => {
      const seen = await work
        .tx('notice')
        .where({ person_id: actor.personId! })
        .whereNull('seen_at')
        .update({ seen_at: at(now) });
      await work.emit('notice', null, { personId: actor.personId });
      return { seen };
    },
  });
}
