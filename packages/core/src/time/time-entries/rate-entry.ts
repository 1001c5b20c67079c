import { Big } from 'big.js';
import {
  type Currency,
  dateOf,
  type DecimalText,
  type Explanation,
  formatMinutes,
  formatMoney,
  type Id,
  type Instant,
  type Money,
  roundToMinor,
  step,
  type TimeBand,
  type WeeklyCalendar,
  type Zone,
} from '../../ground';
import { bandDayAt } from './band-days';
import { chooseRate } from './choose-rate';
import type { Activity, BandPricing, Pricing, RateRule } from './rate-card';
import { roundMinutes, spreadRounding } from './round-minutes';
import { splitByBand } from './split-by-band';

export interface EntryToRate {
  readonly from: Instant;
  readonly to: Instant;
  /** Worked minutes; may be less than the span where there were breaks. */
  readonly minutes: number;
  readonly gradeId: Id<'grade'>;
  readonly activity: Activity;
}

export interface RateBook {
  readonly calendar: WeeklyCalendar;
  /** The provider's, in which the dates of rates are read, whatever zone the calendar has. */
  readonly zone: Zone;
  readonly currency: Currency;
  readonly rules: readonly RateRule[];
  readonly bands: BandPricing;
}

/** One stretch of an entry at one rate: it becomes one charge. */
export interface RatedPart {
  readonly band: TimeBand;
  readonly minutes: number;
  /** Currency an hour after factors, exact. */
  readonly rate: DecimalText;
  readonly net: Money;
}

export type RatedEntry =
  | { readonly is: 'rated'; readonly billedMinutes: number; readonly parts: readonly RatedPart[]; readonly explanation: Explanation }
  | { readonly is: 'no rate'; readonly explanation: Explanation };

/**
 * Rates one entry: time bands, rounding, rate. Every part's amount is rounded once.
 * Source: docs/calculations.md, From time to money. The call-out fee is a charge of its own: see callOutFeeDue.
 */
export function rateEntry(entry: EntryToRate, book: RateBook): RatedEntry {
  const stretches = splitByBand(book.calendar, entry.from, entry.to);
  const worked = shareMinutes(
    entry.minutes,
    stretches.map((s) => s.to - s.from),
  );
  const billedMinutes = roundMinutes(entry.minutes, entry.activity.rounding);
  const minutes = spreadRounding(worked, billedMinutes);
  const { increment, mode, minimum } = entry.activity.rounding;
  const explanation = [
    step('worked', formatMinutes(entry.minutes)),
    step(`rounded ${mode} to ${increment} min, at least ${minimum} min`, formatMinutes(billedMinutes)),
  ];
  const parts: RatedPart[] = [];
  const on = book.zone === book.calendar.zone ? bandDayAt(book.calendar, entry.from).date : dateOf(entry.from, book.zone);
  for (const [i, stretch] of stretches.entries()) {
    if (minutes[i] === 0) continue;
    const rule = chooseRate(book.rules, {
      gradeId: entry.gradeId,
      activityId: entry.activity.id,
      band: stretch.band,
      on,
    });
    if (!rule)
      return { is: 'no rate', explanation: [...explanation, step(`no rate for this grade, ${entry.activity.name}, ${stretch.band}`)] };
    const { rate, why } = applyFactors({ rule, activity: entry.activity, band: stretch.band, bands: book.bands });
    const net = roundToMinor(new Big(rate).times(minutes[i]!), 60, book.currency);
    parts.push({ band: stretch.band, minutes: minutes[i]!, rate, net });
    explanation.push(
      step(`${stretch.band}: ${rule.level} rate`, rule.rate),
      ...why,
      step(`${formatMinutes(minutes[i]!)} at ${rate} an hour`, formatMoney(net)),
    );
  }
  return { is: 'rated', billedMinutes, parts, explanation };
}

/** A rule's rate with the factors of what it does not name; a fixed rate replaces it, the activity's before the band's. */
function applyFactors({
  rule,
  activity,
  band,
  bands,
}: {
  readonly rule: RateRule;
  readonly activity: Activity;
  readonly band: TimeBand;
  readonly bands: BandPricing;
}): { rate: DecimalText; why: Explanation } {
  const open: [string, Pricing][] = [];
  if (rule.activityId === null) open.push([activity.name, activity.pricing]);
  if (rule.band === null) open.push([band, bands[band]]);
  for (const [name, pricing] of open)
    if ('fixedRate' in pricing)
      return { rate: pricing.fixedRate, why: [step(`${name}: fixed rate, no factor applies`, pricing.fixedRate)] };
  let rate = new Big(rule.rate);
  const why = [];
  for (const [name, pricing] of open) {
    if (!('factor' in pricing) || pricing.factor === '1' || new Big(pricing.factor).eq(1)) continue;
    rate = rate.times(pricing.factor);
    why.push(step(`${name}: factor`, `× ${pricing.factor}`));
  }
  return { rate: rate.toString(), why };
}

/** Whole minutes shared over stretches by their length; what is left goes to the largest remainder, the earlier if equal. */
function shareMinutes(minutes: number, lengths: readonly number[]): number[] {
  if (lengths.length === 1) return [minutes];
  const total = lengths.reduce((a, b) => a + b, 0);
  if (total === 0) return lengths.map(() => 0);
  const shares = lengths.map((length, i) => ({ i, whole: Math.floor((minutes * length) / total), remainder: (minutes * length) % total }));
  let left = minutes - shares.reduce((a, s) => a + s.whole, 0);
  for (const share of [...shares].sort((a, b) => b.remainder - a.remainder || a.i - b.i)) {
    if (left-- <= 0) break;
    share.whole++;
  }
  return shares.map((s) => s.whole);
}
