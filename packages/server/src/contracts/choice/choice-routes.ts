import { contractChoiceRoutes } from '@core/contracts';
import { isRefusal, refuse } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { changeRow } from '../../app/change-row';
import { setMeantFor } from './meant-for';
import { readContractOrder } from './read-offered';

export function bindContractChoice(app: App) {
  return bindRoutes(app, contractChoiceRoutes, {
    setMeantFor: ({ work, params, version, body }) => setMeantFor(work, { ...params, version }, body.meantFor),
    getContractOrder: async ({ db }) => {
      const { version, order, warnLevels } = await readContractOrder(db);
      return { version, order: [...order], warnLevels: [...warnLevels] };
    },
    setContractOrder: async ({ work, version, body: { order, warnLevels } }) => {
      if (new Set(order).size < order.length) return refuse('invalid', 'Each may be named once.', { order: 'each once' });
      const changed = await changeRow(work, {
        table: 'contract_settings',
        id: '1',
        version,
        set: { reach_order: order, warn_levels: [...new Set(warnLevels)].sort((a, b) => a - b) },
      });
      return isRefusal(changed) ? changed : { version: changed.version };
    },
  });
}
