import { houseRoutes } from '@core/house';
import { refuse } from '@core/ground';
import { CHECKED_MOVES, SORTED_KINDS } from '@core/desk';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { HOUSE_STORY } from './house-story';
import { plainDecimal } from '../../app/plain-decimal';

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

export function bindHouse(app: App) {
  return bindRoutes(app, houseRoutes, {
    getHouse: async ({ db }) => {
      const [desks, activities, grades, calendars, rates] = await Promise.all([
        db('desk')
          .orderBy('position')
          .select('id', 'name', 'letter', 'usual_activity_id as usualActivityId', 'inside_reach as insideReach'),
        db('activity').orderBy('position').select('id', 'name', 'visit'),
        db('grade').orderBy('position').select('id', 'name'),
        db('calendar').orderBy('name').select('id', 'name', 'written'),
        db('rate_rule as r')
          .leftJoin('grade as g', 'g.id', 'r.grade_id')
          .leftJoin('activity as a', 'a.id', 'r.activity_id')
          .leftJoin('client as c', 'c.id', 'r.client_id')
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
            ...c.written.week.map((h: string[], i: number) => `${DAYS[i]} ${h.join(', ') || 'closed'}`),
            ...Object.entries((c.written.dates ?? {}) as Record<string, string[]>).map(([d, h]) => `${d} ${h.join(', ') || 'closed'}`),
          ],
        })),
        promises: app.house.promiseRows(),
        closing: {
          rules: CHECKED_MOVES.flatMap((move) =>
            SORTED_KINDS.map((kind) => ({ move, kind, checks: [...(app.house.house.tickets.closing.rules[move]?.[kind] ?? [])] })),
          ),
          alwaysAsked: [...app.house.house.tickets.alwaysAsked],
          closeAfterDates: app.house.house.tickets.closeAfterDates,
          reopenDays: app.house.house.tickets.reopenDays,
        },
        kinds: SORTED_KINDS.map((kind) => {
          const { offered, promiseId, asksTime, activityIds } = app.house.kindRule(kind);
          return { kind, offered, promiseId, asksTime: [...asksTime], activityIds: [...activityIds] };
        }),
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
    setClosing: async ({ work, body }) => {
      await work.tx('ticket_settings').update({
        closing_rules: JSON.stringify(
          Object.fromEntries(
            CHECKED_MOVES.map((move) => [
              move,
              Object.fromEntries(body.rules.filter((r) => r.move === move && r.checks.length).map((r) => [r.kind, r.checks])),
            ]),
          ),
        ),
        always_asked: body.alwaysAsked,
        close_after_dates: body.closeAfterDates,
        reopen_days: body.reopenDays,
      });
      await work.tell('setup.moves-changed', HOUSE_STORY, {});
      return {};
    },
    setKinds: async ({ work, body }) => {
      const rows = body.kinds.map((k) => ({
        kind: k.kind,
        offered: k.offered,
        promise_id: k.promiseId,
        asks_time: k.asksTime,
        activity_ids: k.activityIds,
      }));
      if (rows.length) await work.tx('kind_rule').insert(rows).onConflict('kind').merge();
      const withheld: string[] = await work.tx('kind_rule').where({ offered: false }).pluck('kind');
      if (SORTED_KINDS.every((kind) => withheld.includes(kind)))
        return refuse('invalid', 'Offer at least one kind.', { kinds: 'at least one' });
      await work.tell('setup.kinds-changed', HOUSE_STORY, {});
      return {};
    },
  });
}
