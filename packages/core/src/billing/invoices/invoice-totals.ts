import { Big } from 'big.js';
import type { Tax } from '../../goods';
import { majorOf, roundToMinor, sumMoney, type Currency } from '../../ground';
import type { InvoiceLine, InvoiceTotals, TaxGroup } from './invoice';

/**
 * Tax by category and rate on the sum of the lines' net amounts, then rounded; totals are sums of rounded
 * figures. Groups come in order of category, then falling rate. Source: docs/calculations.md, Totals, EN 16931 BR-CO-10 to 17.
 */
export function invoiceTotals(lines: readonly Pick<InvoiceLine, 'net' | 'tax'>[], currency: Currency): InvoiceTotals {
  const byTax = new Map<string, Pick<InvoiceLine, 'net' | 'tax'>[]>();
  for (const line of lines) {
    const key = taxKey(line.tax);
    byTax.set(key, [...(byTax.get(key) ?? []), line]);
  }
  const groups: TaxGroup[] = [...byTax.values()].map((group) => {
    const base = sumMoney(
      group.map((line) => line.net),
      currency,
    );
    const { tax } = group[0]!;
    return { tax, base, amount: roundToMinor(majorOf(base).times(tax.percent), 100, currency) };
  });
  return totalsOf(groups, currency);
}

/** Sums of the groups' rounded figures, with the groups in their order. */
export function totalsOf(unordered: readonly TaxGroup[], currency: Currency): InvoiceTotals {
  const groups = [...unordered].sort(inOrderOfTax);
  const net = sumMoney(
    groups.map((g) => g.base),
    currency,
  );
  const tax = sumMoney(
    groups.map((g) => g.amount),
    currency,
  );
  return { net, tax, gross: sumMoney([net, tax], currency), groups };
}

/** One category and rate, however its percent is written. */
export function taxKey(tax: Tax): string {
  return `${tax.category} ${new Big(tax.percent).toString()}`;
}

function inOrderOfTax(a: TaxGroup, b: TaxGroup): number {
  if (a.tax.category !== b.tax.category) return a.tax.category < b.tax.category ? -1 : 1;
  return new Big(b.tax.percent).cmp(a.tax.percent);
}
