import { Big } from 'big.js';
import {
  type Currency,
  type DecimalText,
  daysBetween,
  type Explanation,
  formatMoney,
  formatUnitPrice,
  type LocalDate,
  majorOf,
  type Money,
  plusDays,
  roundToMinor,
  step,
} from '../../ground';
import type { Period } from './periods';
import type { Discount, PriceStep, RecurringLine } from './recurring-line';

/** Days on which a line has one count and one price: [from, to). */
export interface Stretch extends Period {
  readonly count: number;
  readonly price: DecimalText;
}

/** What a client is entitled to pay for a period of a line. */
export interface PeriodWorth {
  readonly amount: Money;
  /** One of them where price and count were the same on all days of the period; else a quantity of 1 at the amount. */
  readonly quantity: DecimalText;
  readonly price: DecimalText;
  readonly stretches: readonly Stretch[];
  readonly why: Explanation;
}

/**
 * What a period of a line is worth on the facts that are given: rounded once.
 * Source: docs/calculations.md, Recurring lines.
 */
export function worthOfPeriod(line: RecurringLine, period: Period, currency: Currency): PeriodWorth {
  const days = daysBetween(period.from, period.to);
  const active = within(line, period);
  const stretches = active ? stretchesOf(line, active) : [];
  const total = stretches.reduce((sum, s) => sum.plus(new Big(s.price).times(s.count).times(daysBetween(s.from, s.to))), new Big(0));
  const [first] = stretches;
  const even = first && stretches.length === 1 && first.from === period.from && first.to === period.to;
  const whole = first && line.proration !== 'daily';
  const amount = whole ? roundToMinor(new Big(first.price).times(first.count), 1, currency) : roundToMinor(total, days, currency);
  const said = (s: Stretch) =>
    `${s.count} at ${formatUnitPrice(s.price, currency)} on ${daysBetween(s.from, s.to)} of ${days} days from ${s.from}`;
  const why = whole
    ? [
        step(
          `${line.proration === 'whole' ? 'all of the period' : 'as on its first day'}: ${first.count} at ${formatUnitPrice(first.price, currency)}`,
        ),
      ]
    : stretches.map((s) => step(said(s)));
  return {
    amount,
    ...(first && (even || whole) && places(first.price) <= PLACES
      ? { quantity: String(first.count), price: first.price }
      : { quantity: '1', price: majorOf(amount).toFixed() }),
    stretches,
    why: [...why, step('the period', formatMoney(amount))],
  };
}

/** The places of a unit price on a document. */
const PLACES = 4;
const places = (price: DecimalText) => (price.split('.')[1] ?? '').length;

/** The days of a period on which a line is active; undefined where there are none. */
function within(line: RecurringLine, period: Period): Period | undefined {
  const from = line.from > period.from ? line.from : period.from;
  const to = line.to !== null && line.to < period.to ? line.to : period.to;
  return from < to ? { from, to } : undefined;
}

function stretchesOf(line: RecurringLine, active: Period): Stretch[] {
  if (line.proration === 'first day')
    return [{ ...active, count: countsOn(line, { ...active, to: plusDays(active.from, 1) })[0]!, price: priceOn(line, active.from) }];
  if (line.proration === 'whole') return [{ ...active, count: bounded(line, unitsIn(line, active)), price: priceOn(line, active.from) }];
  const counts = countsOn(line, active);
  const found: Stretch[] = [];
  for (const [n, count] of counts.entries()) {
    const day = plusDays(active.from, n);
    const price = priceOn(line, day);
    const last = found.at(-1);
    if (last?.count === count && last.price === price) found[found.length - 1] = { ...last, to: plusDays(day, 1) };
    else found.push({ from: day, to: plusDays(day, 1), count, price });
  }
  return found;
}

/** How many units there are on each day, raised to the minimum and cut to the maximum. */
function countsOn(line: RecurringLine, { from, to }: Period): number[] {
  const days = daysBetween(from, to);
  if (line.counted === 'flat') return Array<number>(days).fill(1);
  const changes = Array<number>(days + 1).fill(0);
  for (const spans of spansByUnit(line, { from, to }).values())
    for (const span of spans) {
      changes[daysBetween(from, span.from)]!++;
      changes[daysBetween(from, span.to)]!--;
    }
  let count = 0;
  return changes.slice(0, days).map((change) => bounded(line, (count += change)));
}

/** The days of each unit within a span; assignments that overlap or touch are one. */
function spansByUnit(line: RecurringLine, { from, to }: Period): Map<string, Period[]> {
  const units = new Map<string, Period[]>();
  const cut = line.units
    .map((u) => ({ of: u.of, from: u.from > from ? u.from : from, to: u.to !== null && u.to < to ? u.to : to }))
    .filter((u) => u.from < u.to)
    .sort((a, b) => (a.from < b.from ? -1 : 1));
  for (const unit of cut) {
    const spans = units.get(unit.of) ?? [];
    const last = spans.at(-1);
    if (last && unit.from <= last.to) spans[spans.length - 1] = { from: last.from, to: unit.to > last.to ? unit.to : last.to };
    else spans.push({ from: unit.from, to: unit.to });
    units.set(unit.of, spans);
  }
  return units;
}

function unitsIn(line: RecurringLine, span: Period): number {
  return line.counted === 'flat' ? 1 : spansByUnit(line, span).size;
}

function bounded({ minimum, maximum, counted }: RecurringLine, count: number): number {
  if (counted === 'flat') return count;
  return Math.min(Math.max(count, minimum ?? 0), maximum ?? Number.MAX_SAFE_INTEGER);
}

/** The price of the last step by a day; undefined before the first. @param prices in order of their dates */
export function priceStepOn(prices: readonly PriceStep[], day: LocalDate): DecimalText | undefined {
  return prices.findLast((p) => p.from <= day)?.price;
}

/** The price of one unit on a day: of its step, less discounts; percents are added, then money is taken off, never below zero. */
function priceOn(line: RecurringLine, day: LocalDate): DecimalText {
  const price = priceStepOn(line.prices, day) ?? '0';
  const holding = line.discounts.filter((d) => d.from <= day && (d.to === null || day < d.to));
  const sum = (of: (d: Discount) => DecimalText | undefined) => holding.reduce((total, d) => total.plus(of(d) ?? 0), new Big(0));
  const percent = sum((d) => ('percent' in d.off ? d.off.percent : undefined));
  const less = sum((d) => ('money' in d.off ? d.off.money : undefined));
  const paid = new Big(price).times(new Big(100).minus(percent)).div(100).minus(less);
  return paid.lt(0) ? '0' : paid.toFixed();
}
