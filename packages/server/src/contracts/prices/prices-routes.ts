import { contractPriceRoutes } from '@core/contracts';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { addDiscount, raisePrices, takeDiscountAway, takePriceAway } from './prices';

export function bindContractPrices(app: App) {
  return bindRoutes(app, contractPriceRoutes, {
    addDiscount: ({ work, params, body }) => addDiscount(work, params, body),
    takeDiscountAway: ({ work, params }) => takeDiscountAway(work, params),
    takePriceAway: ({ work, params, body }) => takePriceAway(work, params, body.from),
    raisePrices: ({ work, params, body }) => raisePrices(work, params.contractId, body),
  });
}
