import { type CostTrialWire, wouldCostRoutes } from '@core/billing';
import { dateOf, type Id, type LocalDate, money, type Outcome, plusDays, refuse, sumMoney } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { at, type Db } from '../../app/database';
import type { HouseBook } from '../../house';
import type { KeptTrial } from './try-cost';

export function bindWouldCost(app: App) {
  const { house } = app;
  return bindRoutes(app, wouldCostRoutes, {
    startCostTrial: async ({ work, params: { clientId }, body }) => {
      const contractIds = [...new Set(body.contractIds)];
      const known = await work.tx('contract').where({ client_id: clientId }).whereIn('id', contractIds).pluck('id');
      if (known.length < contractIds.length)
        return refuse('invalid', 'There is no such contract of this client.', { contractIds: 'contracts of the client' });
      const to = firstOfMonth(dateOf(work.now, house.house.zone));
      const row = { client_id: clientId, contract_ids: contractIds, from_on: yearBefore(to), to_on: to, made_at: at(work.now) };
      const [trial] = await work.tx('cost_trial').insert(row).returning('id');
      await work.enqueue('try-cost', { trialId: trial!.id }, { key: `try-cost:${trial!.id}` });
      return { id: trial!.id };
    },
    getCostTrial: ({ db, params }) => readTrial(db, house, params.trialId),
  });
}

function firstOfMonth(day: LocalDate): LocalDate {
  return `${day.slice(0, 8)}01` as LocalDate;
}

/** The twelve whole months that are over. */
function yearBefore(to: LocalDate): LocalDate {
  return firstOfMonth(plusDays(to, -365));
}

async function readTrial(db: Db, house: HouseBook, trialId: Id<'cost_trial'>): Promise<Outcome<CostTrialWire>> {
  const row = await db('cost_trial').where({ id: trialId }).first();
  if (!row) return refuse('not-found', 'There is no such trial.');
  const { currency } = house.house;
  const kept = row.result as KeptTrial | null;
  const charged: { month: LocalDate; net: number }[] = await db('charge')
    .where({ client_id: row.client_id })
    .whereIn('cause', ['entry', 'call-out', 'recurring'])
    .whereIn('state', ['proposed', 'approved'])
    .where('on_date', '>=', row.from_on)
    .where('on_date', '<', row.to_on)
    .groupByRaw('1')
    .orderByRaw('1')
    .select(db.raw(`date_trunc('month', on_date)::date as month`), db.raw('sum(net_minor)::int as net'));
  return {
    id: row.id,
    state: row.state,
    percent: row.percent,
    from: row.from_on,
    to: row.to_on,
    trouble: row.trouble,
    offers: (kept?.offers ?? []).map(({ name, months }) => ({
      name,
      months: [...months],
      total: sumMoney(
        months.map((m) => m.total),
        currency,
      ),
    })),
    charged: charged.map(({ month, net }) => ({ month, net: money(net, currency) })),
    costs: (kept?.costs ?? []).map(({ month, cost, minutes, withoutRate }) => ({
      month,
      cost: money(cost, currency),
      minutes,
      withoutRate,
    })),
  };
}
