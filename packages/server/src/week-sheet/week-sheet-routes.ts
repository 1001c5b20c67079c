import { dateOf, parseLocalDate, type Instant } from '@core/time';
import { weekSheetRoutes } from '@core/week-sheet';
import type { App } from '../app/app';
import { bindRoutes } from '../app/bind-routes';
import { readWeekSheet } from './read-week-sheet';
import { setCells } from './set-cells';
import { suggestRows } from './suggest-rows';

export function bindWeekSheet(app: App) {
  const { house } = app;
  const dayOf = (day: string | undefined, now: Instant) => (day ? parseLocalDate(day) : dateOf(now, house.house.zone));
  return bindRoutes(app, weekSheetRoutes, {
    getWeekSheet: ({ db, query, actor, now }) => readWeekSheet(db, house, actor.personId!, dayOf(query.day, now)),
    setCells: ({ work, body }) => setCells(work, house, body.cells),
    suggestRows: async ({ db, query, actor, now }) => ({
      rows: await suggestRows(db, house, actor.personId!, dayOf(query.day, now), now),
    }),
  });
}
