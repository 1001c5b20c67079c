import { formatMinutes, formatMoney, formatUnitPrice, type Money } from '../../ground';
import type { OtherKind, RunReason } from './why-differs';

const NAMES: Readonly<Record<OtherKind, string>> = { product: 'goods', fee: 'fees', expense: 'expenses' };

/** A reason in a few words, without its amount where the words have none. */
export function sayReason(reason: RunReason): string {
  switch (reason.is) {
    case 'first':
      return 'nothing like it was billed before';
    case 'count':
      return `${reason.line}: ${reason.was} → ${reason.now}`;
    case 'price':
      return `${reason.line}: ${price(reason.was, reason.by)} → ${price(reason.now, reason.by)} each`;
    case 'amount':
      return `${reason.line}: ${formatMoney(reason.now)} instead of ${formatMoney(reason.was)}`;
    case 'added':
      return `${reason.line}, ${formatMoney(reason.by)}, was not on the last one`;
    case 'gone':
      return `${reason.line} is not on this one`;
    case 'true-up':
      return trueUp(reason.line, reason.was, reason.now);
    case 'work':
      return work(reason.wasMinutes, reason.nowMinutes);
    default:
      return `${NAMES[reason.is]} ${instead(reason.was, reason.now)}`;
  }
}

const price = (each: string, { currency }: Money) => formatUnitPrice(each, currency);

function trueUp(line: string, was: Money, now: Money): string {
  if (now.minor === 0) return `nothing to put right for ${line} this time`;
  return `${line} put right by ${formatMoney(now)}${was.minor === 0 ? '' : `, last time by ${formatMoney(was)}`}`;
}

function work(was: number, now: number): string {
  if (now === 0) return `no work to pay instead of ${formatMinutes(was)}`;
  if (was === now) return `${formatMinutes(now)} of work as last time, at other rates`;
  return was === 0 ? `${formatMinutes(now)} of work, none last time` : `${formatMinutes(now)} of work instead of ${formatMinutes(was)}`;
}

function instead(was: Money, now: Money): string {
  if (was.minor === 0) return `of ${formatMoney(now)}, none last time`;
  return now.minor === 0 ? `none, ${formatMoney(was)} last time` : `of ${formatMoney(now)} instead of ${formatMoney(was)}`;
}
