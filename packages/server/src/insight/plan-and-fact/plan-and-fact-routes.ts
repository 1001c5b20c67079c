import { comparePlan, planAndFactRoutes, totalPlan, type PlanFact } from '@core/insight';
import { formatInstant, parseLocalDate } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { namedWork } from '../../ground';
import { readLost, readPlanned, type Dates } from './read-bookings-done';

const MOST_BOOKINGS = 500;

export function bindPlanAndFact(app: App) {
  const { house } = app;
  const datesOf = (query: { from: string; to: string }): Dates => ({ from: parseLocalDate(query.from), to: parseLocalDate(query.to) });
  return bindRoutes(app, planAndFactRoutes, {
    getPlanAndFact: async ({ db, query, now }) => {
      const dates = datesOf(query);
      const [planned, lost] = [await readPlanned(db, house, dates), await readLost(db, house, { dates, now })];
      return { rows: comparePlan(planned, query.by, lost).map(rowWire), total: { ...rowWire(totalPlan(planned, lost)), key: null } };
    },
    listFactBookings: async ({ db, query }) => {
      const own = (await readPlanned(db, house, datesOf(query))).filter((b) => b.key[query.by] === query.key);
      return {
        count: own.length,
        bookings: own.slice(0, MOST_BOOKINGS).map(({ row, plannedMinutes, actualMinutes, travelMinutes, moves, state }) => ({
          id: row['id'],
          ...namedWork(row),
          client: row['client'],
          technician: row['technician'],
          plannedStartsAt: formatInstant(row['planned_starts_at']),
          state,
          plannedMinutes,
          actualMinutes: state === 'done' ? actualMinutes : null,
          travelMinutes,
          moves,
          cancelReason: row['cancel_reason'],
        })),
      };
    },
  });
}

function rowWire(row: PlanFact) {
  return { ...row, lostMinutes: row.lostMinutes ?? null };
}
