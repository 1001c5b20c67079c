import type { EntryEffect } from '../time-entries';
import { type Explanation, formatMinutes, formatMoney, money, type Money, step } from '../../ground';

/** What a correction does to time that is locked; the first entry and its corrections add up to what is right. */
export type Correction =
  { readonly is: 'nothing to correct' } | { readonly is: 'correction'; /** Whole, never 0. */ readonly minutes: number };

/** @param standing minutes of the entry with all corrections so far @param right minutes it should have been, 0 takes all away */
export function correctTo(standing: number, right: number): Correction {
  return standing === right ? { is: 'nothing to correct' } : { is: 'correction', minutes: right - standing };
}

/** What time comes to: null where it charges nothing. */
export interface Worth {
  readonly minutes: number;
  readonly amount: Money | null;
}

/** What a correction charges: what is right less what stood, each rated whole, so that rounding adds up to what is right. */
export function chargeOfCorrection(before: Worth, after: Worth): { readonly net: Money | null; readonly explanation: Explanation } {
  const currency = (after.amount ?? before.amount)?.currency;
  if (!currency) return { net: null, explanation: said(before, after) };
  const net = money((after.amount?.minor ?? 0) - (before.amount?.minor ?? 0), currency);
  return { net, explanation: [...said(before, after), step('difference', formatMoney(net))] };
}

/** An effect of some minutes; null where there are none. */
export interface RatedMinutes {
  readonly minutes: number;
  readonly effect: EntryEffect | null;
}

/** What a correction does: the difference to the client, or why there is none. One of both has minutes. */
export function effectOfCorrection(before: RatedMinutes, after: RatedMinutes): EntryEffect {
  const worth = ({ minutes, effect }: RatedMinutes): Worth => ({ minutes, amount: effect?.amount ?? null });
  const { net, explanation } = chargeOfCorrection(worth(before), worth(after));
  const silent = (after.effect ?? before.effect)!;
  return {
    is: net ? 'charged' : silent.is,
    amount: net,
    sentence: net ? sayDifference(net) : silent.sentence,
    billedMinutes: (after.effect?.billedMinutes ?? 0) - (before.effect?.billedMinutes ?? 0),
    parts: [],
    why: explanation,
  };
}

function sayDifference(net: Money): string {
  return net.minor < 0 ? `${formatMoney({ ...net, minor: -net.minor })} less to the client` : `${formatMoney(net)} more to the client`;
}

function said(before: Worth, after: Worth): Explanation {
  const worth = ({ minutes, amount }: Worth) => `${formatMinutes(minutes)}, ${amount ? formatMoney(amount) : 'no charge'}`;
  return [step('recorded before', worth(before)), step('corrected to', worth(after))];
}
