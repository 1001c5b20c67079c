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
import type { Discount, PriceStep, RecurringLine, Unit } from './recurring-line';

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
  const price = priceOn(line, active.from);
  if (line.proration === 'first day')
    return [{ ...active, count: bounded(line, unitsIn(line, { ...active, to: plusDays(active.from, 1) })), price }];
  if (line.proration === 'whole') return [{ ...active, count: bounded(line, unitsIn(line, active)), price }];
  const changes = countChanges(line, active);
  const found: Stretch[] = [];
  let count = 0;
  for (const from of daysOfChange(line, active, changes)) {
    count += changes.get(from) ?? 0;
    const stretch = { from, to: active.to, count: bounded(line, count), price: priceOn(line, from) };
    const last = found.at(-1);
    if (last?.count === stretch.count && last.price === stretch.price) continue;
    if (last) found[found.length - 1] = { ...last, to: from };
    found.push(stretch);
  }
  return found;
}

/** The days from which on a count or a price may be another, the first of the span among them. */
function daysOfChange(line: RecurringLine, { from, to }: Period, changes: ReadonlyMap<LocalDate, number>): LocalDate[] {
  const steps = [...line.prices.map((p) => p.from), ...line.discounts.flatMap((d) => (d.to === null ? [d.from] : [d.from, d.to]))];
  const days = new Set([from, ...changes.keys(), ...steps.filter((day) => day > from)]);
  return [...days].filter((day) => day < to).sort();
}

/** By how many the units are more, or fewer, from a day of a span on. */
function countChanges(line: RecurringLine, { from, to }: Period): ReadonlyMap<LocalDate, number> {
  if (line.counted === 'flat') return new Map([[from, 1]]);
  // Most units are there on all days, which asks nothing more of them.
  const always = new Set<string>();
  for (const u of line.units) if (u.from <= from && (u.to === null || u.to >= to)) always.add(u.of);
  const changes = new Map<LocalDate, number>([[from, always.size]]);
  const add = (day: LocalDate, by: number) => changes.set(day, (changes.get(day) ?? 0) + by);
  const others = line.units.filter((u) => !always.has(u.of));
  for (const spans of spansByUnit(others, { from, to }).values())
    for (const span of spans) {
      add(span.from, 1);
      add(span.to, -1);
    }
  return changes;
}

/** The days of each unit within a span; assignments that overlap or touch are one. */
function spansByUnit(all: readonly Unit[], { from, to }: Period): Map<string, Period[]> {
  const units = new Map<string, Period[]>();
  const cut = all
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

/** How many are there on any day of a span. */
function unitsIn(line: RecurringLine, { from, to }: Period): number {
  if (line.counted === 'flat') return 1;
  const there = new Set<string>();
  for (const u of line.units) if (u.from < to && (u.to === null || u.to > from) && (u.to === null || u.from < u.to)) there.add(u.of);
  return there.size;
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
  if (!line.discounts.length) return new Big(price).toFixed();
  const holding = line.discounts.filter((d) => d.from <= day && (d.to === null || day < d.to));
  const sum = (of: (d: Discount) => DecimalText | undefined) => holding.reduce((total, d) => total.plus(of(d) ?? 0), new Big(0));
  const percent = sum((d) => ('percent' in d.off ? d.off.percent : undefined));
  const less = sum((d) => ('money' in d.off ? d.off.money : undefined));
  const paid = new Big(price).times(new Big(100).minus(percent)).div(100).minus(less);
  return paid.lt(0) ? '0' : paid.toFixed();
}
