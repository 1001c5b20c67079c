import { Big } from 'big.js';
import type { Tax } from '../../goods';
import {
  type Currency,
  type DecimalText,
  type Explanation,
  formatMinutes,
  formatMoney,
  type Money,
  money,
  roundToMinor,
  step,
} from '../../ground';

export const CHARGE_KINDS = ['labour', 'product', 'fee', 'expense', 'recurring'] as const;
export type ChargeKind = (typeof CHARGE_KINDS)[number];

/** What was decided on a charge. Withdrawn: nothing charges it any more, and documents name it. */
export const CHARGE_STATES = ['proposed', 'approved', 'waived', 'withdrawn'] as const;
export type ChargeState = (typeof CHARGE_STATES)[number];

/** Where a charge stands: what was decided, and what documents bill of it. */
export const CHARGE_STANDINGS = ['proposed', 'approved', 'part billed', 'billed', 'waived', 'withdrawn'] as const;
export type ChargeStanding = (typeof CHARGE_STANDINGS)[number];

export interface ChargeToStand {
  readonly state: ChargeState;
  readonly net: Money;
  /** The sum of what documents bill of it, signed as it is; null where none does. */
  readonly billed: Money | null;
}

export function standingOf({ state, net, billed }: ChargeToStand): ChargeStanding {
  if (state !== 'approved' || billed === null) return state;
  return billed.minor === net.minor ? 'billed' : 'part billed';
}

/** What documents have not billed of a charge yet, signed as it is. Source: docs/calculations.md, What is billed. */
export function openOf({ net, billed }: Pick<ChargeToStand, 'net' | 'billed'>): Money {
  return money(net.minor - (billed?.minor ?? 0), net.currency);
}

/** The most characters of a charge's description. */
export const CHARGE_TEXT = 500;
/** The most characters of what a document says beneath it. */
export const DETAILS_TEXT = 60_000;

/** What makes somebody look twice at a charge. */
export const CHARGE_MARKS = ['no note', 'long', 'no rate', 'no receipt', 'correction', 'true-up', 'never billed'] as const;
export type ChargeMark = (typeof CHARGE_MARKS)[number];

/** Which decisions a charge takes where it stands. What is billed is corrected by a credit note alone. */
export const CHARGE_DECISIONS = {
  proposed: ['approve', 'waive', 'adjust', 'hold'],
  approved: ['reopen', 'hold'],
  waived: ['reopen'],
  'part billed': [],
  billed: [],
  withdrawn: [],
} as const satisfies Record<ChargeStanding, readonly string[]>;
/** Held is what nobody decides on and no document bills until its day; it can be given back before. */
export const HELD_TAKES = ['give back'] as const;
export const DECISIONS = ['approve', 'waive', 'adjust', 'reopen', 'hold', 'give back'] as const;
export type ChargeDecision = (typeof DECISIONS)[number];

/** What a charge takes where it stands. */
export function decisionsOf(standing: ChargeStanding, isHeld: boolean): readonly ChargeDecision[] {
  return isHeld ? HELD_TAKES : CHARGE_DECISIONS[standing];
}

/** Holding and giving back leave what was decided as it is. */
export const STATE_AFTER: Readonly<Record<Exclude<ChargeDecision, 'hold' | 'give back'>, ChargeState>> = {
  approve: 'approved',
  waive: 'waived',
  adjust: 'proposed',
  reopen: 'proposed',
};

/** How quantities count: minutes are priced by the hour, pieces, kilometres and miles each. Codes of UN/ECE recommendation 20. */
export const UNIT_BASE = { MIN: 60, C62: 1, KMT: 1, SMI: 1 } as const;
export type ChargeUnit = keyof typeof UNIT_BASE;
export const CHARGE_UNITS = Object.keys(UNIT_BASE) as ChargeUnit[];
const UNIT_WORDS: Readonly<Record<Exclude<ChargeUnit, 'MIN'>, string>> = { C62: '', KMT: ' km', SMI: ' miles' };

/** A quantity as people say it: "1 h 30", "2", "42 km". */
export function sayQuantity(quantity: DecimalText, unit: ChargeUnit): string {
  return unit === 'MIN' ? formatMinutes(Number(quantity)) : `${quantity}${UNIT_WORDS[unit]}`;
}

/** What a charge is worth: its quantity at its net unit price, rounded once. Source: docs/calculations.md, Conventions. */
export function chargeAmount({
  quantity,
  unit,
  unitPrice,
  currency,
}: {
  readonly quantity: DecimalText;
  readonly unit: ChargeUnit;
  readonly unitPrice: DecimalText;
  readonly currency: Currency;
}): { net: Money; explanation: Explanation } {
  const net = roundToMinor(new Big(quantity).times(unitPrice), UNIT_BASE[unit], currency);
  const rule =
    unit === 'MIN'
      ? `${formatMinutes(Number(quantity))} at ${unitPrice} an hour, rounded once`
      : `${quantity} × ${unitPrice}, rounded once`;
  return { net, explanation: [step(rule, formatMoney(net))] };
}

/** The tax of a charge: a client that is exempt pays none, whatever the item says. */
export function taxOfCharge(item: Tax, clientExempt: boolean): Tax {
  return clientExempt ? { category: 'E', percent: '0' } : item;
}
