import { dateOf, type Instant, isRefusal, parseLocalDate } from '@core/ground';
import { weekSheetRoutes } from '@core/time';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { readGraded } from '../time-entries/preview-entry';
import { previewCells } from './preview-cells';
import { readWeekSheet } from './read-week-sheet';
import { setCells } from './set-cells';
import { suggestRows } from './suggest-rows';

export function bindWeekSheet(app: App) {
  const { house } = app;
  const dayOf = (day: string | undefined, now: Instant) => (day ? parseLocalDate(day) : dateOf(now, house.house.zone));
  return bindRoutes(app, weekSheetRoutes, {
    getWeekSheet: ({ db, query, actor, now }) => readWeekSheet(db, house, { personId: actor.personId!, day: dayOf(query.day, now) }),
    setCells: ({ work, body }) => setCells(work, house, body.cells),
    previewCells: async ({ db, actor, body, now }) => {
      const who = await readGraded(db, actor.personId!);
      return isRefusal(who) ? who : { cells: await previewCells(db, house, { who, cells: body.cells, now }) };
    },
    suggestRows: async ({ db, query, actor, now }) => ({
      rows: await suggestRows(db, house, { personId: actor.personId!, day: dayOf(query.day, now), now }),
    }),
  });
}
