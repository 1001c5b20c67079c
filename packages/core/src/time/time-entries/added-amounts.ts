import { type Explanation, formatMoney, type Money, step, sumMoney } from '../../ground';
import { type Effect, toTheClient } from './sum-effects';

/** What an entry charges besides its time: "call-out", or the way there: "12.5 miles". */
export interface AddedAmount {
  readonly what: string;
  readonly net: Money;
  readonly why: Explanation;
}

/** What an entry does with all it charges besides its time, named in its sentence and its steps. */
export function withAddedAmounts(effect: Effect, added: readonly AddedAmount[]): Effect {
  if (!added.length) return effect;
  const nets = added.map((b) => b.net);
  const amount = sumMoney([...(effect.amount ? [effect.amount] : []), ...nets], nets[0]!.currency);
  const said = added.map((b) => `${b.what} ${formatMoney(b.net)}`).join(', ');
  return {
    ...effect,
    amount,
    sentence: sentenceWith(effect, { amount, said }),
    why: [...effect.why, ...added.flatMap((b) => b.why), step('together', formatMoney(amount))],
  };
}

function sentenceWith(effect: Effect, { amount, said }: { readonly amount: Money; readonly said: string }): string {
  const pays = effect.amount ? `${toTheClient(amount)}, of it ${said}` : `${said} to the client`;
  if (effect.drawn) return `${effect.drawn}; ${pays}`;
  return effect.amount ? pays : `${pays}; ${effect.sentence}`;
}
