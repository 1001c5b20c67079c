import { inject } from '@angular/core';
import { map } from 'rxjs';
import { costRateFormSchema, costRateRoutes, type PersonCostWire } from '@core/house';
import { formatUnitPrice } from '@core/ground';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import type { SetupRow, SetupSection } from '../../ui/setup-list';
import { isoDay, plainDate } from '../../ui/time-format';

type Row = PersonCostWire & SetupRow & { readonly from: string; readonly rate: string };

/** What an hour of each person costs; called where injection is possible. */
export function costRatesSection(): SetupSection<Row, typeof costRateFormSchema> {
  const [api, session] = [inject(Api), inject(Session)];
  const today = isoDay(session.now(), session.zone);
  return {
    heading: 'What an hour costs',
    intro:
      'What an hour of each person costs the provider, from which day on. It makes margins, and is seen by those alone who may see costs.',
    none: 'Nobody has a grade, so nobody records time.',
    rows: () =>
      api.call(costRateRoutes.listCostRates, {}).pipe(
        map(({ people, currency }) =>
          people.map((p) => {
            const says = p.rates.map((r) => `${formatUnitPrice(r.rate, currency)} from ${plainDate(r.from)}`).join(', ') || 'not said';
            return { ...p, id: p.personId, version: 0, says, from: today, rate: p.rates.at(-1)?.rate ?? '' };
          }),
        ),
      ),
    draft: 'cost-rate',
    schema: costRateFormSchema,
    lines: () => [
      { name: 'rate', label: 'An hour costs', kind: 'money' },
      { name: 'from', label: 'From', kind: 'date' },
    ],
    edit: (row, _, body) =>
      api.call(costRateRoutes.setCostRate, { params: { personId: row.personId }, body }).pipe(map(() => ({ id: row.id }))),
  };
}
