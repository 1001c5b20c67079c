import { Big } from 'big.js';
import { chargeAmount, type ChargeKind } from '../charges';
import { type Currency, type DecimalText, money, type Money, sumMoney } from '../../ground';
import type { RunLine } from './run-line';

/** What is not billed again by itself. */
export type OtherKind = Exclude<ChargeKind, 'labour' | 'recurring'>;

/** One reason why a document comes to something else than the last; `by` is its part of the difference. */
export type RunReason =
  | { readonly is: 'first'; readonly by: Money }
  | { readonly is: 'count' | 'price'; readonly line: string; readonly was: DecimalText; readonly now: DecimalText; readonly by: Money }
  | { readonly is: 'amount'; readonly line: string; readonly was: Money; readonly now: Money; readonly by: Money }
  | { readonly is: 'added' | 'gone'; readonly line: string; readonly by: Money }
  | { readonly is: 'true-up'; readonly line: string; readonly was: Money; readonly now: Money; readonly by: Money }
  | { readonly is: 'work'; readonly wasMinutes: number; readonly nowMinutes: number; readonly by: Money }
  | { readonly is: OtherKind; readonly was: Money; readonly now: Money; readonly by: Money };

/**
 * Why a document comes to something else than the last one of its client, the largest part first. The parts add up to the
 * difference, to the cent. Source: docs/calculations.md, A billing run.
 * @param last null where there was none
 */
export function whyDiffers(now: readonly RunLine[], last: readonly RunLine[] | null, currency: Currency): RunReason[] {
  if (last === null) return [{ is: 'first', by: netOf(now, currency) }];
  const reasons = [
    ...recurring(now, last, currency),
    ...trueUps(now, last, currency),
    ...work(now, last, currency),
    ...(['product', 'fee', 'expense'] as const).flatMap((kind) => other(kind, { now, last, currency })),
  ];
  return reasons.filter((r) => r.by.minor !== 0).sort((a, b) => Math.abs(b.by.minor) - Math.abs(a.by.minor));
}

const netOf = (lines: readonly RunLine[], currency: Currency) =>
  sumMoney(
    lines.map((l) => l.net),
    currency,
  );
const less = (a: Money, b: Money) => money(a.minor - b.minor, a.currency);

function recurring(now: readonly RunLine[], last: readonly RunLine[], currency: Currency): RunReason[] {
  const isOf = (isTrueUp: boolean) => (l: RunLine) => l.recurs?.isTrueUp === isTrueUp;
  return namesOf([...now, ...last].filter(isOf(false))).flatMap(([lineId, line]): RunReason[] => {
    const mine = (lines: readonly RunLine[]) => lines.filter((l) => isOf(false)(l) && l.recurs!.lineId === lineId);
    const [is, was] = [mine(now), mine(last)];
    const by = less(netOf(is, currency), netOf(was, currency));
    if (!was.length) return [{ is: 'added', line, by }];
    if (!is.length) return [{ is: 'gone', line, by }];
    const [one, before] = [is[0]!, was[0]!];
    if (is.length > 1 || was.length > 1 || !isCounted(one, before))
      return [{ is: 'amount', line, was: netOf(was, currency), now: netOf(is, currency), by }];
    // What more of them cost at the price they had; the rest is the price.
    const more = new Big(one.quantity).minus(before.quantity).toFixed();
    const byCount = chargeAmount({ quantity: more, unit: before.unit, unitPrice: before.unitPrice, currency }).net;
    const isPrice = !new Big(one.unitPrice).eq(before.unitPrice);
    if (!isPrice && Number(more) === 0) return [{ is: 'amount', line, was: netOf(was, currency), now: netOf(is, currency), by }];
    return [
      { is: 'count', line, was: before.quantity, now: one.quantity, by: isPrice ? byCount : by },
      { is: 'price', line, was: before.unitPrice, now: one.unitPrice, by: isPrice ? less(by, byCount) : money(0, currency) },
    ];
  });
}

/** Whether both are so many at a price: a single piece may be a part of a period, whose price says nothing. */
function isCounted(one: RunLine, before: RunLine): boolean {
  const isPiece = (l: RunLine) => new Big(l.quantity).abs().eq(1);
  return new Big(one.unitPrice).eq(before.unitPrice) || (!isPiece(one) && !isPiece(before));
}

function trueUps(now: readonly RunLine[], last: readonly RunLine[], currency: Currency): RunReason[] {
  const of = (lines: readonly RunLine[]) => lines.filter((l) => l.recurs?.isTrueUp);
  return namesOf([...of(now), ...of(last)]).map(([lineId, line]) => {
    const mine = (lines: readonly RunLine[]) =>
      netOf(
        of(lines).filter((l) => l.recurs!.lineId === lineId),
        currency,
      );
    return { is: 'true-up', line, was: mine(last), now: mine(now), by: less(mine(now), mine(last)) };
  });
}

/** Contract lines by id with the name they have now. */
function namesOf(lines: readonly RunLine[]): [string, string][] {
  const names = new Map<string, string>();
  for (const { recurs } of lines) if (recurs && !names.has(recurs.lineId)) names.set(recurs.lineId, recurs.line);
  return [...names];
}

function work(now: readonly RunLine[], last: readonly RunLine[], currency: Currency): RunReason[] {
  const mine = (lines: readonly RunLine[]) => lines.filter((l) => l.kind === 'labour');
  const minutes = (lines: readonly RunLine[]) => mine(lines).reduce((sum, l) => sum + (l.unit === 'MIN' ? Number(l.quantity) : 0), 0);
  return [
    {
      is: 'work',
      wasMinutes: minutes(last),
      nowMinutes: minutes(now),
      by: less(netOf(mine(now), currency), netOf(mine(last), currency)),
    },
  ];
}

function other(
  kind: OtherKind,
  { now, last, currency }: { readonly now: readonly RunLine[]; readonly last: readonly RunLine[]; readonly currency: Currency },
): RunReason[] {
  const mine = (lines: readonly RunLine[]) =>
    netOf(
      lines.filter((l) => l.kind === kind),
      currency,
    );
  return [{ is: kind, was: mine(last), now: mine(now), by: less(mine(now), mine(last)) }];
}
