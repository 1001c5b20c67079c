import { houseRoutes } from '@core/house';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { plainDecimal } from '../../app/plain-decimal';

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

export function bindHouse(app: App) {
  return bindRoutes(app, houseRoutes, {
    getHouse: async ({ db }) => {
      const [desks, activities, grades, calendars, rates] = await Promise.all([
        db('desk').orderBy('position').select('id', 'name', 'letter', 'usual_activity_id as usualActivityId'),
        db('activity').orderBy('position').select('id', 'name', 'visit'),
        db('grade').orderBy('position').select('id', 'name'),
        db('calendar').orderBy('name').select('id', 'name', 'written'),
        db('rate_rule as r')
          .leftJoin('grade as g', 'g.id', 'r.grade_id')
          .leftJoin('activity as a', 'a.id', 'r.activity_id')
          .leftJoin('client as c', 'c.id', 'r.client_id')
          // A contract's own stand on its page.
          .whereNot('r.level', 'contract')
          .orderByRaw('r.level desc, c.name, g.position')
          .select('r.level', 'r.band', 'r.rate', 'g.name as grade', 'a.name as activity', 'c.name as client'),
      ]);
      return {
        provider: app.house.house.provider,
        zone: app.house.house.zone,
        desks,
        activities,
        distanceUnit: app.house.house.time.distance.unit,
        longMinutes: app.house.house.time.longMinutes,
        grades,
        calendars: calendars.map((c) => ({
          id: c.id,
          name: c.name,
          zone: c.written.zone,
          hours: [
            ...c.written.week.map((h: readonly string[], i: number) => `${DAYS[i]} ${h.join(', ') || 'closed'}`),
            ...Object.entries((c.written.dates ?? {}) as Record<string, string[]>).map(([d, h]) => `${d} ${h.join(', ') || 'closed'}`),
          ],
        })),
        rates: rates.map((r) => ({
          level: r.level,
          grade: r.grade ?? 'any',
          activity: r.activity ?? 'any',
          band: r.band ?? 'any',
          rate: plainDecimal(r.rate),
          client: r.client ?? 'all',
        })),
      };
    },
  });
}
