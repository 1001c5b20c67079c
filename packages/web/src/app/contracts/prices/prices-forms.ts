import { inject } from '@angular/core';
import { map } from 'rxjs';
import { contractPriceRoutes, type ContractWire, discountFormSchema, type LineWire, raiseFormSchema } from '@core/contracts';
import { Api } from '../../shell/api';
import { Session } from '../../shell/session';
import type { Line, RecordForm } from '../../ui/record-form';
import { isoDay } from '../../ui/time-format';

export const DISCOUNT_FIELDS: readonly Line[] = [
  { name: 'percent', label: 'Percent off its price', kind: 'money' },
  { name: 'money', label: 'Or money off each', kind: 'money' },
  { name: 'from', label: 'First day', kind: 'date' },
  { name: 'lastDay', label: 'Last day, if any', kind: 'date' },
];
export const RAISE_FIELDS: readonly Line[] = [
  { name: 'percent', label: 'All prices rise by, percent', kind: 'money' },
  { name: 'indexThen', label: 'Or as an index did: its figure then', kind: 'money' },
  { name: 'indexNow', label: 'And its figure now', kind: 'money' },
  { name: 'from', label: 'From', kind: 'date' },
];

/** The forms that change prices of a contract for a time or for good; called where injection is possible. */
export function pricesForms() {
  const [api, session] = [inject(Api), inject(Session)];
  const today = isoDay(session.now(), session.zone);
  return {
    discount: (c: ContractWire, line: LineWire): RecordForm<typeof discountFormSchema> => ({
      schema: discountFormSchema,
      initial: { percent: null, money: null, from: today < line.startsOn ? line.startsOn : today, lastDay: null },
      draft: `discount.${line.id}`,
      does: 'Give it',
      save: (body) => api.call(contractPriceRoutes.addDiscount, { params: { contractId: c.id, lineId: line.id }, body }),
    }),
    raise: (c: ContractWire): RecordForm<typeof raiseFormSchema> => ({
      schema: raiseFormSchema,
      initial: { percent: null, indexThen: null, indexNow: null, from: '' },
      draft: `raise.${c.id}`,
      does: 'Let them rise',
      save: (body) => api.call(contractPriceRoutes.raisePrices, { params: { contractId: c.id }, body }).pipe(map(() => ({ id: c.id }))),
    }),
  };
}
