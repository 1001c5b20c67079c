import { chooseOpenings, openingRoutes, OPENINGS_PROPOSED } from '@core/scheduling';
import { plusSeconds, refuse } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { readOneBookable } from '../dispatch/read-unbooked';
import { findOpenings } from '../fitting/find-fits';
import { workFitWire } from '../fitting/fitting-routes';
import { endOpenings } from './end-openings';
import { offerOpenings } from './offer-openings';

/** A client needs some time to read a mail and to choose. */
const LEAD_SECONDS = 2 * 3600;

export function bindOpenings(app: App) {
  const { house } = app;
  return bindRoutes(app, openingRoutes, {
    proposeOpenings: async ({ db, params, query, now }) => {
      const work = await readOneBookable(db, params.ticketId);
      if (!work) return refuse('not-found', 'There is no such ticket.');
      const from = plusSeconds(now, LEAD_SECONDS);
      const found = await findOpenings(db, house, { work, days: query.days, from, now });
      const offerable = found.map((f) => ({ ...f.slot, personId: f.personId, points: f.fit.points, found: f }));
      const contact = await db('ticket as t')
        .leftJoin('contact as k', 'k.id', 't.contact_id')
        .where('t.id', params.ticketId)
        .first('k.email', 't.sender_email');
      return {
        openings: chooseOpenings(offerable, OPENINGS_PROPOSED, from).map((o) => workFitWire(o.found)),
        estimateSays: work.estimate.says,
        to: contact?.email ?? contact?.sender_email ?? null,
      };
    },
    offerOpenings: ({ work, params, body }) => offerOpenings(app, work, { ticketId: params.ticketId, asked: body }),
    releaseOpenings: ({ work, params }) => endOpenings(work, house, { setId: params.setId, end: 'released' }),
  });
}
