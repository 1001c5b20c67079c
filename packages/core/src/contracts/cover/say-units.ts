import { type Currency, formatMinutes, formatMoney, money } from '../../ground';
import type { Measure } from './cover';

/** So much of an allowance, as people say it: "2 h 10 min", "€75.00", "3 tickets". */
export function sayUnits(measure: Measure, units: number, currency: Currency): string {
  if (measure === 'hours') return formatMinutes(units);
  if (measure === 'money') return formatMoney(money(units, currency));
  return measure === 'incidents' ? `${units} ${units === 1 ? 'ticket' : 'tickets'}` : 'no limit';
}
