import { Big } from 'big.js';
import { type Currency, daysBetween, formatMoney, type LocalDate, plusDays, roundToMinor, step } from '../../ground';
import type { Period } from './periods';
import type { PeriodWorth, Stretch } from './period-worth';
import { type PricedUnits, pricedUnits, quantityAndPrice, sayPriced } from './price-of-count';
import { priceOnDay } from './price-on-day';
import type { RecurringLine, Unit } from './recurring-line';
import { worthOfReadings } from './worth-of-readings';

/**
 * What a period of a line is worth on the facts that are given: rounded once.
 * Source: docs/calculations.md, Recurring lines.
 */
export function worthOfPeriod(line: RecurringLine, period: Period, currency: Currency): PeriodWorth {
  const active = within(line, period);
  if (line.counted === 'metered') return worthOfReadings(line, active, currency);
  const days = daysBetween(period.from, period.to);
  const stretches = active ? stretchesOf(line, active) : [];
  const isWhole = line.proration !== 'daily';
  const [first] = stretches;
  const lasts = (s: Stretch) => (isWhole ? 1 : daysBetween(s.from, s.to));
  const sum = (of: (s: Stretch) => Big) => stretches.reduce((total, s) => total.plus(of(s).times(lasts(s))), new Big(0));
  const divisor = isWhole ? 1 : days;
  const amount = roundToMinor(sum(amountOf), divisor, currency);
  const { unitCost } = line;
  const isEven = first && stretches.length === 1 && (isWhole || (first.from === period.from && first.to === period.to));
  const why = isWhole
    ? stretches.map((s) =>
        step(`${line.proration === 'whole' ? 'all of the period' : 'as on its first day'}: ${sayPriced(s.parts, currency)}`),
      )
    : stretches.map((s) => step(`${sayPriced(s.parts, currency)} on ${daysBetween(s.from, s.to)} of ${days} days from ${s.from}`));
  return {
    amount,
    ...quantityAndPrice(isEven ? first.parts : [], amount),
    stretches,
    cost:
      unitCost === null
        ? null
        : roundToMinor(
            sum((s) => new Big(unitCost).times(s.count)),
            divisor,
            currency,
          ),
    why: [...why, step('the period', formatMoney(amount))],
  };
}

/** What the units of a stretch come to, for a whole period. */
function amountOf({ parts }: Stretch): Big {
  const [first, ...more] = parts.map((p) => new Big(p.price).times(p.count));
  return more.reduce((total, part) => total.plus(part), first ?? new Big(0));
}

/** The days of a period on which a line is active; undefined where there are none. */
function within(line: RecurringLine, period: Period): Period | undefined {
  const from = line.from > period.from ? line.from : period.from;
  const to = line.to !== null && line.to < period.to ? line.to : period.to;
  return from < to ? { from, to } : undefined;
}

function stretchesOf(line: RecurringLine, active: Period): Stretch[] {
  if (line.proration === 'first day') return [stretch(line, active, unitsIn(line, { ...active, to: plusDays(active.from, 1) }))];
  if (line.proration === 'whole') return [stretch(line, active, unitsIn(line, active))];
  const changes = countChanges(line, active);
  const found: Stretch[] = [];
  let count = 0;
  for (const from of daysOfChange(line, active, changes)) {
    count += changes.get(from) ?? 0;
    const next = stretch(line, { from, to: active.to }, count);
    const last = found.at(-1);
    if (last?.count === next.count && isSamePrice(last.parts, next.parts)) continue;
    if (last) found[found.length - 1] = { ...last, to: from };
    found.push(next);
  }
  return found;
}

/** Days with so many units, at the price of their first. */
function stretch(line: RecurringLine, days: Period, units: number): Stretch {
  const count = bounded(line, units);
  return { ...days, count, parts: pricedUnits(priceOnDay(line, days.from), { priced: line.priced, count: String(count) }) };
}

function isSamePrice(a: readonly PricedUnits[], b: readonly PricedUnits[]): boolean {
  return a.length === b.length && a.every((one, n) => one.count === b[n]!.count && one.price === b[n]!.price);
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
