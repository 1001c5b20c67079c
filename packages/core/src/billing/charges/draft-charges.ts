import { Big } from 'big.js';
import { type Currency, type DecimalText, type Explanation, formatMinutes, majorOf, type Money, money, step } from '../../ground';
import { type DistanceUnit, type EntryEffect, isLong, type RatedPart } from '../../time';
import { CHARGE_TEXT, type ChargeKind, type ChargeMark, type ChargeUnit } from './charge';

/** What a charge comes from. One cause and part of a record exists once. */
export const CHARGE_CAUSES = [
  'entry',
  'distance',
  'call-out',
  'share',
  'expense',
  'fee',
  'item',
  'recurring',
  'milestone',
  'by hand',
] as const;
export type ChargeCauseName = (typeof CHARGE_CAUSES)[number];

/** A charge as it is to be proposed; whose it is and its tax are of the record that it comes from. */
export interface ChargeDraft {
  readonly cause: ChargeCauseName;
  /** Tells several of one cause apart, from 0. */
  readonly part: number;
  readonly kind: ChargeKind;
  readonly description: string;
  /** What a document says beneath it. */
  readonly details?: string | null;
  readonly quantity: DecimalText;
  readonly unit: ChargeUnit;
  /** Net, in major units, for one of the unit's base: of minutes, an hour. */
  readonly unitPrice: DecimalText;
  readonly net: Money;
  readonly marks: readonly ChargeMark[];
  readonly why: Explanation;
}

/** An amount that an entry charges beside its time. */
interface Beside {
  readonly net: Money;
  readonly why: Explanation;
}

export interface EntryCause {
  readonly is: 'entry';
  readonly person: string;
  readonly activity: string;
  /** The entry's note, or its ticket's subject: it stands on the invoice. */
  readonly text: string;
  readonly hasNote: boolean;
  readonly minutes: number;
  /** Minutes from which an entry is long. */
  readonly longMinutes: number;
  readonly currency: Currency;
  readonly effect: EntryEffect;
  /** The fee of the visit that it begins; null where it begins none. */
  readonly callOut: (Beside & { readonly price: DecimalText }) | null;
  readonly way: (Beside & { readonly distance: DecimalText; readonly unit: DistanceUnit; readonly rate: DecimalText }) | null;
}

/** An entry of the difference that a correction makes. */
export interface CorrectionCause {
  readonly is: 'correction';
  readonly person: string;
  readonly text: string;
  readonly effect: EntryEffect;
}

/** A part of the time of an umbrella that was shared out to one member. */
export interface ShareCause {
  readonly is: 'share';
  readonly person: string;
  readonly activity: string;
  readonly minutes: number;
  /** Of the whole entry. */
  readonly of: number;
  readonly sharedBy: string;
  readonly effect: EntryEffect;
  /** Which share of the entry, from 0. */
  readonly nth: number;
}

export interface ExpenseCause {
  readonly is: 'expense';
  readonly category: string;
  readonly note: string | null;
  readonly hasReceipt: boolean;
  readonly net: Money;
  readonly why: Explanation;
}

/** A catalogue item on a ticket, or the flat fee of a whole job. */
export interface ItemCause {
  readonly is: 'item' | 'fee';
  readonly name: string;
  readonly quantity: DecimalText;
  readonly price: DecimalText;
  readonly net: Money;
  /** Whether a price rule says that it is never billed: a person decides. */
  readonly isNeverBilled: boolean;
  readonly why: Explanation;
}

export type ChargeCause = EntryCause | CorrectionCause | ShareCause | ExpenseCause | ItemCause;

/** All charges that what happened is worth; none where it charges nothing. Source: docs/calculations.md, From time to money. */
export function draftCharges(cause: ChargeCause): ChargeDraft[] {
  switch (cause.is) {
    case 'entry':
      return [...labour(cause), ...callOut(cause), ...distance(cause)];
    case 'correction':
      return correction(cause);
    case 'share':
      return share(cause);
    case 'expense':
      return [
        piece(cause, {
          cause: 'expense',
          kind: 'expense',
          description: [cause.category, cause.note].filter(Boolean).join(': '),
          marks: cause.hasReceipt ? [] : ['no receipt'],
        }),
      ];
    case 'item':
    case 'fee':
      return [item(cause)];
  }
}

/** The most parts that one share can have; a share's parts are numbered from its place times this. */
const SHARE_PARTS = 1000;
const UNIT_CODES: Readonly<Record<DistanceUnit, ChargeUnit>> = { km: 'KMT', miles: 'SMI' };

function labour(cause: EntryCause): ChargeDraft[] {
  const { effect, person, activity, text, minutes, currency } = cause;
  if (effect.is !== 'charged' && effect.is !== 'no rate') return [];
  // Without a rate it is proposed at nothing, so that somebody sees it.
  const parts = effect.is === 'no rate' ? [{ band: 'working hours', minutes, rate: '0', net: money(0, currency) }] : partsToPay(effect);
  const marks: ChargeMark[] = [...entryMarks(cause), ...(effect.is === 'no rate' ? (['no rate'] as const) : [])];
  return parts.map((part, n) => {
    const named = { cause: 'entry', kind: 'labour', description: `${person}, ${activity}, ${part.band}: ${text}`, marks } as const;
    const draft = { ...piece({ net: part.net, why: effect.why }, named), part: n };
    return part.rate === null ? draft : { ...draft, quantity: String(part.minutes), unit: 'MIN' as const, unitPrice: part.rate };
  });
}

/** A stretch as the client pays it; without a rate it is an amount alone. */
interface PartToPay extends Omit<RatedPart, 'rate' | 'band'> {
  readonly band: string;
  readonly rate: DecimalText | null;
}

/** What the client pays of an entry: all of it at its rates, or what its contract leaves. */
function partsToPay({ parts, under }: EntryEffect): PartToPay[] {
  if (!under) return [...parts];
  return under.stretches.flatMap(({ is, band, minutes, coveredMinutes, rate, factor, charge, overIs }) => {
    if (is === 'covered') return [];
    if (is === 'not covered') return [{ band, minutes, rate, net: charge }];
    const over = { band: `${band}, more than ${under.contract} holds`, minutes: minutes - coveredMinutes, net: charge };
    return [{ ...over, rate: overIs === 'minutes' ? new Big(rate).times(factor).toFixed() : null }];
  });
}

function entryMarks({ hasNote, minutes, longMinutes }: EntryCause): ChargeMark[] {
  return [...(hasNote ? [] : (['no note'] as const)), ...(isLong(minutes, longMinutes) ? (['long'] as const) : [])];
}

/** The call-out fee of the visit that an entry begins. */
function callOut(cause: EntryCause): ChargeDraft[] {
  if (!cause.callOut) return [];
  const { price, net, why } = cause.callOut;
  return [
    {
      ...piece({ net, why }, { cause: 'call-out', kind: 'fee', description: `Call-out, ${cause.person}`, marks: entryMarks(cause) }),
      unitPrice: price,
    },
  ];
}

/** The way there, at its rate for one unit of it. */
function distance(cause: EntryCause): ChargeDraft[] {
  if (!cause.way) return [];
  const { distance, unit, rate, net, why } = cause.way;
  const described = `Travel, ${cause.person}, ${distance} ${unit}`;
  return [
    {
      ...piece({ net, why }, { cause: 'distance', kind: 'expense', description: described, marks: entryMarks(cause) }),
      quantity: distance,
      unit: UNIT_CODES[unit],
      unitPrice: rate,
    },
  ];
}

function correction({ person, text, effect: { amount, why } }: CorrectionCause): ChargeDraft[] {
  if (!amount || amount.minor === 0) return [];
  return [
    piece({ net: amount, why }, { cause: 'entry', kind: 'labour', description: `Correction, ${person}: ${text}`, marks: ['correction'] }),
  ];
}

function share({ person, activity, minutes, of, sharedBy, effect, nth }: ShareCause): ChargeDraft[] {
  return effect.parts.map((part, n) => ({
    cause: 'share',
    part: nth * SHARE_PARTS + n,
    kind: 'labour',
    // The umbrella's own subject and note may name others, so a client reads neither.
    description: cut(`${person}, ${activity}, ${part.band}: share of work on a common cause`),
    quantity: String(part.minutes),
    unit: 'MIN',
    unitPrice: part.rate,
    net: part.net,
    marks: [],
    why: [step(`shared out by ${sharedBy}`, `${formatMinutes(minutes)} of ${formatMinutes(of)}`), ...effect.why],
  }));
}

function item({ is, name, quantity, price, net, isNeverBilled, why }: ItemCause): ChargeDraft {
  const kind = is === 'fee' ? 'fee' : 'product';
  return {
    ...piece({ net, why }, { cause: is, kind, description: name, marks: isNeverBilled ? ['never billed'] : [] }),
    quantity,
    unitPrice: price,
  };
}

/** One piece. A price is never below nothing; what is given back has a quantity below nothing. Source: EN 16931, BR-27. */
function piece({ net, why }: Beside, named: Pick<ChargeDraft, 'cause' | 'kind' | 'description' | 'marks'>): ChargeDraft {
  return {
    ...named,
    part: 0,
    description: cut(named.description),
    quantity: net.minor < 0 ? '-1' : '1',
    unit: 'C62',
    unitPrice: majorOf({ ...net, minor: Math.abs(net.minor) }).toFixed(),
    net,
    why,
  };
}

const cut = (text: string) => text.slice(0, CHARGE_TEXT);
