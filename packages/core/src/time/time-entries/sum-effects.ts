import { type Explanation, formatMinutes, formatMoney, type Money, step, sumMoney } from '../../ground';

/** What time does: the charge to the client, or why there is none. Whole minutes. */
export interface Effect {
  readonly minutes: number;
  readonly billedMinutes: number;
  /** Null where it charges nothing. */
  readonly amount: Money | null;
  readonly sentence: string;
  /** What of it a contract takes, as its sentence begins: "45 min of November's 12 h, 2 h 10 left". */
  readonly drawn?: string;
  readonly why: Explanation;
}
/** "€52.00 to the client". */
export function toTheClient(amount: Money): string {
  return `${formatMoney(amount)} to the client`;
}

/** An effect, and what it is the effect of: "Mon 23". */
export interface NamedEffect {
  readonly name: string;
  readonly effect: Effect;
}

/**
 * What several pieces of time do together: each with its sentence, and the sum. Amounts are of one currency.
 * @param to who pays: "the client", or "clients" where they may be several
 */
export function sumEffects(parts: readonly NamedEffect[], to: 'the client' | 'clients'): Effect {
  const [first] = parts;
  if (parts.length === 1) return first!.effect;
  const effects = parts.map((p) => p.effect);
  const sum = (of: (e: Effect) => number) => effects.reduce((total, e) => total + of(e), 0);
  const amounts = effects.flatMap((e) => e.amount ?? []);
  const silent = effects.filter((e) => !e.amount);
  const amount = amounts.length ? sumMoney(amounts, amounts[0]!.currency) : null;
  const silentMinutes = silent.reduce((total, e) => total + e.minutes, 0);
  return {
    minutes: sum((e) => e.minutes),
    billedMinutes: sum((e) => e.billedMinutes),
    amount,
    sentence: amount
      ? `${formatMoney(amount)} to ${to}${silentMinutes ? `, ${formatMinutes(silentMinutes)} without charge` : ''}`
      : sentenceOfSilent(silent),
    why: [
      ...parts.map(({ name, effect }) => step(`${name}, ${formatMinutes(effect.minutes)}`, effect.sentence)),
      ...(amount ? [step('together', formatMoney(amount))] : []),
    ],
  };
}

function sentenceOfSilent(silent: readonly Effect[]): string {
  const said = new Set(silent.map((e) => e.sentence));
  if (!silent.length) return 'nothing is recorded';
  return said.size === 1 ? [...said][0]! : 'no charge';
}
