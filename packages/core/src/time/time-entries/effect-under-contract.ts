import { type CoveredEntry, type CoveredStretch, type CoverTerms, sayUnits } from '../../contracts';
import { type Currency, type Explanation, formatMinutes, formatMoney, type Id, money, monthOf, step, sumMoney } from '../../ground';
import type { EntryEffect } from './effect-of-entry';
import { toTheClient } from './sum-effects';

/** What a contract does with an entry, kept with its effect: what was drawn of which lot stands here. */
export interface UnderContract {
  readonly contractId: Id<'contract'>;
  /** "1001 Care". */
  readonly contract: string;
  /** How it found its contract. */
  readonly chosen: Explanation;
  readonly stretches: readonly CoveredStretch[];
  readonly coversFees: boolean;
}

/** A contract as it is named beside what it does. */
export interface CoveringContract extends CoverTerms {
  readonly id: Id<'contract'>;
  readonly number: number;
  readonly name: string;
}

/** An entry's effect by its rates alone, as it was before its contract did its part. */
export function effectByRate(effect: EntryEffect, currency: Currency): EntryEffect {
  if (!effect.under) return effect;
  const { under: _, drawn: __, whyByRate, ...rest } = effect;
  const amount = sumMoney(
    effect.parts.map((p) => p.net),
    currency,
  );
  return { ...rest, is: 'charged', amount, sentence: toTheClient(amount), why: whyByRate ?? rest.why };
}

/** An entry's effect once its contract has done its part. Source: docs/calculations.md, Cover. */
export function effectUnderContract(
  effect: EntryEffect,
  {
    contract,
    chosen,
    covered,
    currency,
  }: {
    readonly contract: CoveringContract;
    readonly chosen: Explanation;
    readonly covered: CoveredEntry;
    readonly currency: Currency;
  },
): EntryEffect {
  const { stretches } = covered;
  const amount = sumMoney(
    stretches.map((s) => s.charge),
    currency,
  );
  const isAllCovered = stretches.every((s) => s.is === 'covered');
  const name = `${contract.number} ${contract.name}`;
  return {
    ...effect,
    is: isAllCovered ? 'covered' : 'charged',
    amount: isAllCovered ? null : amount,
    ...sayCovered({ contract, covered, currency, name }),
    why: [
      ...effect.why,
      ...(chosen.length ? chosen : [step('under the contract', name)]),
      ...covered.why,
      step('to pay', formatMoney(isAllCovered ? money(0, currency) : amount)),
    ],
    whyByRate: effect.why,
    under: { contractId: contract.id, contract: name, chosen, stretches, coversFees: covered.coversFees },
  };
}

interface Said {
  readonly contract: CoveringContract;
  readonly covered: CoveredEntry;
  readonly currency: Currency;
  readonly name: string;
}

/** "45 min of November's 12 h, 2 h 10 left; nothing to pay", and of it what was drawn. */
function sayCovered(said: Said): Pick<EntryEffect, 'sentence' | 'drawn'> {
  const { stretches } = said.covered;
  const amount = sumMoney(
    stretches.map((s) => s.charge),
    said.currency,
  );
  if (stretches.every((s) => s.is === 'not covered')) return { sentence: `not covered by ${said.name}: ${toTheClient(amount)}` };
  if (stretches.every((s) => s.is === 'overage'))
    return { sentence: `nothing is left of ${allowanceOf(said)?.name ?? said.name}: ${toTheClient(amount)}` };
  const drawn = drawnOf(said);
  const pays = stretches.every((s) => s.is === 'covered') ? 'nothing to pay' : `${toTheClient(amount)} for the rest`;
  return { sentence: `${drawn}; ${pays}`, drawn };
}

function drawnOf(said: Said): string {
  const { covered, currency, name } = said;
  const allowance = allowanceOf(said);
  const draws = covered.stretches.flatMap((s) => s.draws);
  const units = draws.reduce((sum, d) => sum + d.units, 0);
  if (!allowance || allowance.measure === 'unlimited') return `covered by ${name}`;
  const left = covered.left ? `, ${sayUnits(allowance.measure, covered.left.left, currency)} left` : '';
  if (allowance.measure === 'incidents' && units === 0) return `its ticket counts already${left}`;
  const minutes = covered.stretches.reduce((sum, s) => sum + s.coveredMinutes, 0);
  const drawn = allowance.measure === 'hours' ? formatMinutes(minutes) : sayUnits(allowance.measure, units, currency);
  const lots = new Set(draws.map((d) => d.lot));
  const [lot] = lots;
  const of =
    lots.size === 1 && allowance.each === 'each period' && said.contract.schedule.frequency === 'monthly'
      ? `${monthOf(lot!)}'s ${sayUnits(allowance.measure, allowance.grant, currency)}`
      : allowance.name;
  return `${drawn} of ${of}${left}`;
}

function allowanceOf({ contract, covered }: Said) {
  const ids = covered.stretches
    .map((s) => contract.rules.find((r) => r.id === s.ruleId)?.allowanceId)
    .filter((id) => id !== undefined && id !== null);
  return contract.allowances.find((a) => a.id === ids[0]);
}
