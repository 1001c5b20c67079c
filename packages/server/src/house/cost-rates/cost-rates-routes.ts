import { costRateRoutes } from '@core/house';
import { parseLocalDate, refuse } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { plainDecimal } from '../../app/plain-decimal';
import type { Row } from '../../app/rows';

export function bindCostRates(app: App) {
  return bindRoutes(app, costRateRoutes, {
    listCostRates: async ({ db }) => {
      const people: Row<'person', 'id' | 'name'>[] = await db('person').whereNotNull('grade_id').orderBy('name').select('id', 'name');
      const rates: Row<'cost_rate'>[] = await db('cost_rate').orderBy('from_on');
      return {
        currency: app.house.house.currency,
        people: people.map(({ id, name }) => ({
          personId: id,
          name,
          rates: rates.filter((r) => r.person_id === id).map((r) => ({ from: r.from_on, rate: plainDecimal(r.rate) })),
        })),
      };
    },
    setCostRate: async ({ work, params: { personId }, body: { from, rate } }) => {
      if (!(await work.tx('person').where({ id: personId }).first('id'))) return refuse('not-found', 'There is no such person.');
      const row = { person_id: personId, from_on: parseLocalDate(from), rate };
      await work.tx('cost_rate').insert(row).onConflict(['person_id', 'from_on']).merge();
      await work.tell('person.cost-rate-set', personId, { from });
      return {};
    },
  });
}
