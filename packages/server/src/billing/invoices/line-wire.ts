import type { InvoiceLine, InvoiceTotals } from '@core/billing';

/** A line as pages show it, issued or yet to be. */
export function lineWire({ description, details, quantity, unit, unitPrice, net, tax }: InvoiceLine) {
  return { description, details, quantity, unit, unitPrice, net, taxCategory: tax.category, taxPercent: tax.percent };
}

/** Tax by category and rate as pages show it. */
export function groupsWire({ groups }: InvoiceTotals) {
  return groups.map((g) => ({ category: g.tax.category, percent: g.tax.percent, base: g.base, tax: g.amount }));
}
