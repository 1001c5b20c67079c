import { Big } from 'big.js';
import type { Tax } from '../../goods';
import { type Currency, daysBetween, type DecimalText, formatMinutes, formatUnitPrice, type LocalDate, plural } from '../../ground';
import { UNIT_BASE, type ChargeKind, type ChargeMark, type ChargeUnit } from './charge';

/** What makes somebody look twice at a charge, and how its figures count: minutes, prices of one unit, days. */
export const ODDITIES = {
  'no note': null,
  long: 'minutes',
  'no rate': null,
  'no receipt': null,
  correction: null,
  'true-up': null,
  'not covered': null,
  'above estimate': 'minutes',
  'unusual rate': 'price',
  'under cost': 'price',
  'never billed': null,
  old: 'days',
  'beside a flat fee': null,
  'no tax': null,
  'asked about': null,
} as const;
export type OddityName = keyof typeof ODDITIES;
export const ODDITY_NAMES = Object.keys(ODDITIES) as OddityName[];

/** What is odd about a charge: what it has, beside what was expected, and whose name that is. */
export interface Oddity {
  readonly is: OddityName;
  readonly has: DecimalText | null;
  readonly beside: DecimalText | null;
  /** The contract that would cover it, the fee that it stands beside, who asked. */
  readonly of: string | null;
}

/** What a charge is looked at with. */
export interface ChargeBesides {
  /** What its own record says of it. */
  readonly marks: readonly ChargeMark[];
  readonly kind: ChargeKind;
  readonly on: LocalDate;
  readonly unit: ChargeUnit;
  /** Net, in major units, for one of the unit's base. */
  readonly unitPrice: DecimalText;
  readonly tax: Tax;
  /** Whether the client pays no tax, whatever is sold. */
  readonly isExempt: boolean;
  /** Of the entry that it comes from. */
  readonly minutes: number | null;
  /** What the ticket was estimated at, and all that was recorded on it; null where nobody estimated. */
  readonly planned: { readonly estimate: number; readonly spent: number } | null;
  /** The contract that runs on its day and covers work, where it did not cover this. */
  readonly contract: string | null;
  /** The flat fee of its ticket. */
  readonly fee: string | null;
  /** What one costs, in major units; null where nobody knows. */
  readonly unitCost: DecimalText | null;
  /** The middle of what this client paid for the like, and in how many charges; null where there is nothing like it. */
  readonly usual: { readonly price: DecimalText; readonly cases: number } | null;
  /** Who of the client asked about it and waits for an answer. */
  readonly askedBy: string | null;
}

/** From where on something is odd: it is the provider's to say. */
export interface OddityLimits {
  /** Days. */
  readonly old: number;
  /** By how many percent a rate may differ from the usual one. */
  readonly ratePercent: number;
  /** Minutes from which an entry is long. */
  readonly long: number;
  /** How many charges make a rate usual. */
  readonly cases: number;
}

/** All that is odd about a charge on a day, in one order. Source: docs/calculations.md, What is odd about a charge. */
export function odditiesOf(
  charge: ChargeBesides,
  { today, limits }: { readonly today: LocalDate; readonly limits: OddityLimits },
): Oddity[] {
  const found = (Object.keys(ODDITIES) as OddityName[]).map((name) => LOOK[name](charge, limits, today));
  return found.flatMap((oddity, n) => (oddity ? [{ ...NOTHING, is: ODDITY_NAMES[n]!, ...oddity }] : []));
}

type Found = Partial<Omit<Oddity, 'is'>> | null;
const NOTHING = { has: null, beside: null, of: null } as const;
const FOUND: Found = {};

const marked = (name: ChargeMark) => (charge: ChargeBesides) => (charge.marks.includes(name) ? FOUND : null);

const LOOK: Readonly<Record<OddityName, (charge: ChargeBesides, limits: OddityLimits, today: LocalDate) => Found>> = {
  'no note': marked('no note'),
  long: ({ marks, minutes }, { long }) =>
    marks.includes('long') ? { has: minutes === null ? null : String(minutes), beside: String(long) } : null,
  'no rate': marked('no rate'),
  'no receipt': marked('no receipt'),
  correction: marked('correction'),
  'true-up': marked('true-up'),
  'not covered': ({ kind, contract }) => (kind === 'labour' && contract !== null ? { of: contract } : null),
  'above estimate': ({ kind, planned }) =>
    kind === 'labour' && planned && planned.spent > planned.estimate
      ? { has: String(planned.spent), beside: String(planned.estimate) }
      : null,
  'unusual rate': ({ unit, unitPrice, usual, marks }, { ratePercent, cases }) =>
    unit === 'MIN' && usual && usual.cases >= cases && !marks.includes('no rate') && differs(unitPrice, usual.price, ratePercent)
      ? { has: unitPrice, beside: usual.price }
      : null,
  'under cost': ({ unitPrice, unitCost }) =>
    unitCost !== null && new Big(unitPrice).lt(unitCost) ? { has: unitPrice, beside: unitCost } : null,
  'never billed': marked('never billed'),
  old: ({ on }, { old }, today) => {
    const days = daysBetween(on, today);
    return days > old ? { has: String(days), beside: String(old) } : null;
  },
  'beside a flat fee': ({ kind, fee }) => (kind === 'labour' && fee !== null ? { of: fee } : null),
  'no tax': ({ tax, isExempt }) => (!isExempt && tax.category === 'S' && new Big(tax.percent).eq(0) ? FOUND : null),
  'asked about': ({ askedBy }) => (askedBy === null ? null : { of: askedBy }),
};

function differs(price: DecimalText, usual: DecimalText, percent: number): boolean {
  return new Big(price).minus(usual).abs().times(100).gt(new Big(usual).times(percent));
}

/** An oddity as people say it: "above estimate: 1 h 35, planned 1 h". */
export function sayOddity(
  { is, has, beside, of }: Oddity,
  { unit, currency }: { readonly unit: ChargeUnit; readonly currency: Currency },
): string {
  if (of !== null) return `${is}: ${of}`;
  if (has === null || beside === null) return is;
  const say = SAY[ODDITIES[is] ?? 'price'];
  const each = UNIT_BASE[unit] === 1 ? '' : ' an hour';
  return `${is}: ${say(has, currency)}${ODDITIES[is] === 'price' ? each : ''}, ${BESIDE[is] ?? 'limit'} ${say(beside, currency)}`;
}

const SAY: Readonly<Record<'minutes' | 'price' | 'days', (value: DecimalText, currency: Currency) => string>> = {
  minutes: (value) => formatMinutes(Number(value)),
  price: formatUnitPrice,
  days: (value) => plural(Number(value), 'day'),
};
const BESIDE: Readonly<Partial<Record<OddityName, string>>> = {
  'above estimate': 'planned',
  'unusual rate': 'else',
  'under cost': 'costs',
};
