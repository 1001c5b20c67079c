import { dateOf, isRefusal, parseLocalDate } from '@core/ground';
import { contractTimeRoutes, timeContractRoutes } from '@core/time';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { chooseForEntry, chooseForTicket } from './choose-by-hand';
import { readContractTime } from './read-contract-time';
import { readTicketContract } from './read-ticket-contract';

export function bindContractTime(app: App) {
  return bindRoutes(app, contractTimeRoutes, {
    getContractTime: ({ db, now, params, query }) => {
      const today = dateOf(now, app.house.house.zone);
      return readContractTime(db, app.house, { contractId: params.contractId, today, on: query.on ? parseLocalDate(query.on) : today });
    },
  });
}

export function bindTimeContract(app: App) {
  const book = app.house;
  return bindRoutes(app, timeContractRoutes, {
    getTicketContract: ({ db, now, params }) => readTicketContract(db, book, { ...params, today: dateOf(now, book.house.zone) }),
    setTicketContract: async ({ work, params, body }) => {
      const chosen = await chooseForTicket(work, params.ticketId, body);
      return isRefusal(chosen) ? chosen : {};
    },
    setEntryContract: ({ work, params, version, body }) => chooseForEntry(work, { ...params, version }, body),
  });
}
