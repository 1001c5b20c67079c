import { type LineWire, priceStepOn } from '@core/contracts';
import { type Currency, formatUnitPrice, type LocalDate, parseLocalDate } from '@core/ground';
import { plainDate } from '../../ui/time-format';

/** The prices of a line that hold on a day; before its first day those that it begins with. */
export function stepOn({ price, tiers, prices }: LineWire, day: LocalDate): Pick<LineWire, 'price' | 'tiers'> {
  const steps = prices.map((p) => ({ ...p, from: parseLocalDate(p.from) }));
  return priceStepOn(steps, day) ?? { price, tiers };
}

/** What one counts, and what more of them cost: "a seat, above 10 €8.00, monthly". */
export function sayEach(line: LineWire, day: LocalDate, currency: Currency): string {
  const of = { flat: '', seat: ' a seat', asset: ' an asset', metered: ' each' }[line.counted];
  const tiers = stepOn(line, day).tiers.map((t) => `above ${t.above} ${formatUnitPrice(t.price, currency)}`);
  const more = tiers.length ? `, ${tiers.join(', ')}${line.priced === 'volume' ? ' for all' : ''},` : '';
  return `${of}${more} ${line.frequency}`.trim();
}

/** When a line is billed, for how many and which part of a period. */
export function sayWhen(
  { counted, frequency, paid, leadsBy, minimum, maximum, proration, startsOn, lastDay, namesOnInvoice }: LineWire,
  today: LocalDate,
): string {
  const isOnce = frequency === 'once';
  return [
    isOnce && `on ${plainDate(startsOn)}`,
    !isOnce && (paid === 'in advance' ? `in advance, ${leadsBy} days before` : paid),
    minimum !== null && `at least ${minimum}`,
    maximum !== null && `at most ${maximum}`,
    !isOnce && counted !== 'metered' && proration !== 'daily' && `a part of a period: ${proration}`,
    !isOnce && startsOn > today && `from ${plainDate(startsOn)}`,
    !isOnce && lastDay && `until ${plainDate(lastDay)}`,
    namesOnInvoice && 'names on invoices',
  ]
    .filter(Boolean)
    .join(', ');
}
