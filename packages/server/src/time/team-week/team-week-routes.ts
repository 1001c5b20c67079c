import { dateOf, parseLocalDate } from '@core/ground';
import { teamWeekRoutes } from '@core/time';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { readTeamWeek } from './read-team-week';

export function bindTeamWeek(app: App) {
  const { house } = app;
  return bindRoutes(app, teamWeekRoutes, {
    getTeamWeek: ({ db, query, now }) =>
      readTeamWeek(db, house, { day: query.day ? parseLocalDate(query.day) : dateOf(now, house.house.zone), now }),
  });
}
