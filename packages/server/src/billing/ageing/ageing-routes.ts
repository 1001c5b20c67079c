import { ageingRoutes } from '@core/billing';
import { dateOf } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { readAgeing } from './ageing-read-model';

export function bindAgeing(app: App) {
  return bindRoutes(app, ageingRoutes, {
    getAgeing: ({ db, now }) => readAgeing(db, app.house, dateOf(now, app.house.house.zone)),
  });
}
