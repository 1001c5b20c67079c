import { neverChargedRoutes } from '@core/billing';
import { dateOf } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { readNeverCharged } from './read-never-charged';

export function bindNeverCharged(app: App) {
  return bindRoutes(app, neverChargedRoutes, {
    listNeverCharged: ({ db, query, now }) =>
      readNeverCharged(db, app.house, { today: dateOf(now, app.house.house.zone), reason: query.reason ?? null }),
  });
}
