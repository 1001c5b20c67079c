import { money, type Money } from '../../ground';

/** An invoice that money may settle. */
export interface ToSettle {
  readonly id: string;
  readonly left: Money;
}

export interface Settlement {
  readonly id: string;
  readonly amount: Money;
}

/**
 * Settles invoices in the order given, each as far as the money goes.
 * @returns what settles which, and what is left over: the client's credit
 */
export function allocateMoney(
  amount: Money,
  invoices: readonly ToSettle[],
): { readonly settled: readonly Settlement[]; readonly over: Money } {
  let rest = amount.minor;
  const settled: Settlement[] = [];
  for (const { id, left } of invoices) {
    const minor = Math.min(rest, left.minor);
    if (minor <= 0) continue;
    settled.push({ id, amount: money(minor, amount.currency) });
    rest -= minor;
  }
  return { settled, over: money(rest, amount.currency) };
}
