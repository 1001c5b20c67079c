import { currency, date, decimal, defineRoutes, id, list, nothing, record, text, type Wire } from '../../ground';

export const costRateFormSchema = record({
  from: date(),
  /** Currency an hour. */
  rate: decimal(),
});
export type CostRateForm = Wire<typeof costRateFormSchema>;
/** What an hour of somebody costs the provider, from each day on. */
export const personCostSchema = record({ personId: id('person'), name: text(), rates: list(costRateFormSchema) });
export type PersonCostWire = Wire<typeof personCostSchema>;

export const costRateRoutes = defineRoutes({
  listCostRates: {
    method: 'GET',
    path: '/cost-rates',
    summary: 'What an hour of each person costs the provider',
    permission: 'costs.read',
    answer: record({ currency: currency(), people: list(personCostSchema) }),
  },
  setCostRate: {
    method: 'PUT',
    path: '/people/:personId/cost-rate',
    summary: 'Set what an hour of a person costs from a day on; what held before stays',
    permission: 'setup.edit',
    body: costRateFormSchema,
    answer: nothing(),
  },
});
