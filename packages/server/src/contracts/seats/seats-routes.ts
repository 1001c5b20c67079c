import { seatRoutes } from '@core/contracts';
import { dateOf } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { changeSeats } from './change-seats';
import { readClientSeats, readUnitSeats } from './read-client-seats';

export function bindSeats(app: App) {
  const { house } = app;
  return bindRoutes(app, seatRoutes, {
    getClientSeats: ({ db, now, params, query }) =>
      readClientSeats(db, { ...params, ...query, today: dateOf(now, house.house.zone), currency: house.house.currency }),
    changeSeats: ({ work, params, body }) => changeSeats(work, params.clientId, body),
    getUnitSeats: ({ db, now, params }) =>
      readUnitSeats(db, { ...params, today: dateOf(now, house.house.zone), currency: house.house.currency }),
  });
}
