import { type Explanation, formatMinutes, step, sumMoney } from '../../ground';
import { type EntryToRate, rateEntry, type RateBook, type RatedPart } from './rate-entry';
import type { Activity, Rounding } from './rate-card';
import type { UnderContract } from './effect-under-contract';
import { type Effect, toTheClient } from './sum-effects';
import { type ChargeableTime, NOT_CHARGED, type NotCharged, whyNotCharged } from './why-not-charged';

export interface EntryFacts extends ChargeableTime, Omit<EntryToRate, 'activity'> {
  /** Undefined where it is not known any more. */
  readonly activity: Activity | undefined;
  /** A share of time that was rounded by whoever shared it out. */
  readonly exact?: boolean;
}

/** What an entry does by its length; `is` says whether it charges, and if not, why. */
export interface EntryEffect extends Omit<Effect, 'minutes'> {
  readonly is: 'charged' | 'covered' | 'no rate' | NotCharged;
  /** As it was rated, whatever its contract takes of it. */
  readonly parts: readonly RatedPart[];
  /** What its contract does with it, where it has one. */
  readonly under?: UnderContract;
  /** How it was rated, where a contract said more. */
  readonly whyByRate?: Explanation;
}

const EXACT: Rounding = { increment: 1, mode: 'up', minimum: 0 };
const NO_RATE = 'no rate found: it will be proposed at nothing and shown in charge review';

/** What an entry does: the charge to the client, or why there is none. Source: docs/calculations.md, From time to money. */
export function effectOfEntry(entry: EntryFacts, book: RateBook): EntryEffect {
  const silent = whyNotCharged(entry);
  if (silent) return none(entry, silent);
  if (!entry.activity) return none(entry, 'unknown activity');
  const activity = entry.exact ? { ...entry.activity, rounding: EXACT } : entry.activity;
  const rated = rateEntry({ ...entry, activity }, book);
  if (rated.is === 'no rate')
    return { is: 'no rate', amount: null, sentence: NO_RATE, billedMinutes: 0, parts: [], why: rated.explanation };
  const amount = sumMoney(
    rated.parts.map((p) => p.net),
    book.currency,
  );
  return {
    is: 'charged',
    amount,
    sentence: toTheClient(amount),
    billedMinutes: rated.billedMinutes,
    parts: rated.parts,
    why: rated.explanation,
  };
}

function none(entry: EntryFacts, is: NotCharged): EntryEffect {
  const sentence = NOT_CHARGED[is];
  return { is, amount: null, sentence, billedMinutes: 0, parts: [], why: [step('worked', formatMinutes(entry.minutes)), step(sentence)] };
}
