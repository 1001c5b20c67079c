import { amount, count, date, defineRoutes, id, list, listOf, oneOf, optionalText, record, text, type Wire } from '../../ground';

/** The most contracts that are tried side by side. */
export const MOST_TRIED = 3;
export const TRIAL_STATES = ['waiting', 'running', 'ready', 'failed'] as const;

const monthSchema = record({
  month: date(),
  recurring: amount(),
  work: amount(),
  total: amount(),
  minutes: count(),
  coveredMinutes: count(),
});
export const costTrialSchema = record({
  id: id('cost_trial'),
  state: oneOf(TRIAL_STATES),
  percent: count(),
  /** [from, to), whole months. */
  from: date(),
  to: date(),
  trouble: optionalText(),
  /** By the hour first, then each contract that was tried. */
  offers: list(record({ name: text(), months: list(monthSchema), total: amount() })),
  /** What was charged in fact, by month. */
  charged: list(record({ month: date(), net: amount() })),
  /** What the time cost the provider, by month; not there for who may not see it. */
  costs: list(record({ month: date(), cost: amount(), minutes: count(), withoutRate: count() })).optional(),
});
export type CostTrialWire = Wire<typeof costTrialSchema>;

export const wouldCostRoutes = defineRoutes({
  startCostTrial: {
    method: 'POST',
    path: '/clients/:clientId/cost-trials',
    summary: "Work out what a year's work of a client would cost under up to three contracts",
    permission: 'charges.read',
    body: record({ contractIds: listOf(id('contract').defined(), MOST_TRIED).min(1, 'choose at least one') }),
    answer: record({ id: id('cost_trial') }),
  },
  getCostTrial: {
    method: 'GET',
    path: '/cost-trials/:trialId',
    summary: 'How far it is, or what it would have cost month by month',
    permission: 'charges.read',
    hides: [{ path: 'costs', needs: 'costs.read' }],
    answer: costTrialSchema,
  },
});
