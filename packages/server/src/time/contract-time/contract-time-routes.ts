import { dateOf, parseLocalDate } from '@core/ground';
import { contractTimeRoutes } from '@core/time';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { readContractTime } from './read-contract-time';

export function bindContractTime(app: App) {
  return bindRoutes(app, contractTimeRoutes, {
    getContractTime: ({ db, now, params, query }) => {
      const today = dateOf(now, app.house.house.zone);
      return readContractTime(db, app.house, { contractId: params.contractId, today, on: query.on ? parseLocalDate(query.on) : today });
    },
  });
}
