import { at } from '../../app/database';
import { fittingRoutes } from '@core/scheduling';
import { formatInstant, naming, parseInstant, refuse } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { readOneBookable } from '../dispatch/read-unbooked';
import { readOverruns } from './overruns';
import { findGapFits, findWorkFits, type Found } from './find-fits';

export function bindFitting(app: App) {
  const { house } = app;
  return bindRoutes(app, fittingRoutes, {
    listOverruns: async ({ db, now }) => ({ overruns: await readOverruns(db, house, now) }),
    settleOverrun: async ({ work, params, now }) => {
      const settled = await work
        .tx('overrun')
        .where({ booking_id: params.bookingId })
        .whereNull('settled_at')
        .update({ settled_at: at(now) });
      await work.emit('booking', params.bookingId);
      return { settled };
    },
    listGapFits: async ({ db, query, now }) => {
      const gap = { from: parseInstant(query.from), to: parseInstant(query.to) };
      const found = await findGapFits(db, house, { personId: query.personId, gap, now });
      return {
        fits: found.map((f) => ({
          ...naming(f.work),
          client: f.work.client,
          priority: f.work.priority,
          needsVisit: f.work.needsVisit,
          estimateSays: f.work.estimate.says,
          ...fitWire(f),
        })),
      };
    },
    listWorkFits: async ({ db, params, query, now }) => {
      const work = await readOneBookable(db, params.workId);
      if (!work) return refuse('not-found', 'There is no such work.');
      const found = await findWorkFits(db, house, { work, days: query.days, now });
      return {
        minutes: work.estimate.p80,
        estimateSays: work.estimate.says,
        fits: found.map(workFitWire),
      };
    },
  });
}

/** One gap that fits a piece of work. */
export function workFitWire(f: Found) {
  return { personId: f.personId, person: f.person, ...fitWire(f) };
}

function fitWire({ slot, fit, minutes }: Found) {
  return {
    startsAt: formatInstant(slot.from),
    endsAt: formatInstant(slot.to),
    minutes,
    travelBefore: slot.travelBefore,
    travelAfter: slot.travelAfter,
    points: fit.points,
    says: fit.says,
    why: fit.why,
  };
}
