import { ownRatesRoutes } from '@core/contracts';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { setOwnRates, setOwnRoundings } from './own-rates';

export function bindOwnRates(app: App) {
  return bindRoutes(app, ownRatesRoutes, {
    setRates: ({ work, params, version, body }) => setOwnRates(work, { ...params, version }, body.rates),
    setRoundings: ({ work, params, version, body }) => setOwnRoundings(work, { ...params, version }, body.roundings),
  });
}
