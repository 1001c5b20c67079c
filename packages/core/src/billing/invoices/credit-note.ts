import { Big } from 'big.js';
import { allocate, type Currency, majorOf, type Money, money, roundToMinor, sumMoney } from '../../ground';
import type { Tax } from '../../goods';
import type { BillingLink, LinkDoes } from '../charges';
import type { InvoiceLine, InvoiceTotals, TaxGroup } from './invoice';
import { pieceOf } from './invoice-lines';
import { taxKey, totalsOf } from './invoice-totals';

/** The invoice that is corrected. */
export interface InvoiceToCredit {
  readonly currency: Currency;
  readonly lines: readonly InvoiceLine[];
  readonly groups: readonly TaxGroup[];
}

/** A credit note of the same invoice that is issued already. */
export interface EarlierCredit {
  readonly lines: readonly Pick<InvoiceLine, 'corrects' | 'net' | 'links'>[];
  readonly groups: readonly TaxGroup[];
}

/** What is given back of a line; signed as the line is. */
export interface AskedCredit {
  readonly position: number;
  readonly net: Money;
}

export type CreditNoteDraft =
  | { readonly is: 'credit note'; readonly lines: readonly InvoiceLine[]; readonly totals: InvoiceTotals }
  /** Nothing was asked for. */
  | { readonly is: 'empty' }
  /** There is no such line, or it was asked for twice. */
  | { readonly is: 'no line'; readonly position: number }
  | { readonly is: 'too much'; readonly position: number; readonly left: Money };

/** What credit notes have left of each line of an invoice, in its order; undefined where all of it was given back. */
export function leftToCredit(invoice: InvoiceToCredit, earlier: readonly EarlierCredit[]): (Money | undefined)[] {
  return invoice.lines.map((line) => {
    const given = earlier.flatMap((note) => note.lines).filter((l) => l.corrects === line.position);
    const left = line.net.minor - given.reduce((sum, l) => sum + l.net.minor, 0);
    return left === 0 && given.length ? undefined : money(left, invoice.currency);
  });
}

/**
 * A credit note of some lines of an invoice, whole or in part. It never exceeds the invoice by line, and the one that takes
 * the last of a tax group takes what is left of its tax. Source: docs/calculations.md, Credit notes.
 * @param undoes whether what was billed is open again, or the money is given back for good
 */
export function creditNote(
  invoice: InvoiceToCredit,
  earlier: readonly EarlierCredit[],
  { asked, undoes }: { readonly asked: readonly AskedCredit[]; readonly undoes: boolean },
): CreditNoteDraft {
  if (!asked.length) return { is: 'empty' };
  const left = leftToCredit(invoice, earlier);
  const lines: InvoiceLine[] = [];
  for (const { position, net } of [...asked].sort((a, b) => a.position - b.position)) {
    const at = invoice.lines.findIndex((l) => l.position === position);
    const line = invoice.lines[at];
    if (!line || lines.some((l) => l.corrects === position)) return { is: 'no line', position };
    const rest = left[at];
    if (rest === undefined || !isWithin(net, rest)) return { is: 'too much', position, left: rest ?? money(0, invoice.currency) };
    lines.push({
      position: lines.length + 1,
      description: line.description,
      details: line.details,
      ...(net.minor === line.net.minor ? { quantity: line.quantity, unit: line.unit, unitPrice: line.unitPrice } : pieceOf(net)),
      net,
      tax: line.tax,
      links: linksOf(line, earlier, { net, does: undoes ? 'undo' : 'give back' }),
      corrects: position,
    });
  }
  return { is: 'credit note', lines, totals: creditTotals(invoice, earlier, lines) };
}

/** Something of it, and not more; of a line of nothing, nothing. */
function isWithin(net: Money, rest: Money): boolean {
  if (rest.minor === 0) return net.minor === 0;
  return Math.sign(net.minor) === Math.sign(rest.minor) && Math.abs(net.minor) <= Math.abs(rest.minor);
}

/** Shares what is given back of a line among what it bills: all that is left of each, or a part of each in proportion. */
function linksOf(line: InvoiceLine, earlier: readonly EarlierCredit[], { net, does }: { net: Money; does: LinkDoes }): BillingLink[] {
  if (!line.links.length) return [];
  const back = earlier
    .flatMap((note) => note.lines)
    .filter((l) => l.corrects === line.position)
    .flatMap((l) => l.links);
  const rest = line.links.map(({ chargeId, net: billed }) =>
    back.filter((l) => l.chargeId === chargeId).reduce((sum, l) => sum + l.net.minor, billed.minor),
  );
  const all = rest.reduce((sum, minor) => sum + minor, 0);
  const parts = Math.abs(net.minor) === Math.abs(all) ? rest : inProportion(Math.sign(all) * Math.abs(net.minor), rest);
  return line.links.map(({ chargeId }, n) => ({ chargeId, does, net: money(-parts[n]! + 0, net.currency) }));
}

function inProportion(minor: number, rest: readonly number[]): readonly number[] {
  const weights = rest.map((each) => (Math.sign(each) === Math.sign(minor) ? Math.abs(each) : 0));
  return allocate(money(minor, 'EUR'), weights).map((part) => part.minor);
}

function creditTotals(invoice: InvoiceToCredit, earlier: readonly EarlierCredit[], lines: readonly InvoiceLine[]): InvoiceTotals {
  const { currency } = invoice;
  const left = leftToCredit(invoice, [...earlier, { lines, groups: [] }]);
  const groups = invoice.groups.flatMap((group): TaxGroup[] => {
    const ofGroup = (of: { readonly tax: Tax }) => taxKey(of.tax) === taxKey(group.tax);
    const own = lines.filter(ofGroup);
    if (!own.length) return [];
    const base = sumMoney(
      own.map((l) => l.net),
      currency,
    );
    const taxLeft =
      group.amount.minor -
      earlier
        .flatMap((note) => note.groups)
        .filter(ofGroup)
        .reduce((sum, g) => sum + g.amount.minor, 0);
    const members = invoice.lines.filter(ofGroup);
    const takesLast = members.every((l) => left[invoice.lines.indexOf(l)] === undefined);
    const amount = takesLast ? money(taxLeft, currency) : taxOfPart(base, group.tax, { taxLeft, oneSign: haveOneSign(members) });
    return [{ tax: group.tax, base, amount }];
  });
  return totalsOf(groups, currency);
}

/** Rounding of many small notes never gives back more tax than there was. */
function taxOfPart(base: Money, tax: Tax, { taxLeft, oneSign }: { readonly taxLeft: number; readonly oneSign: boolean }): Money {
  const amount = roundToMinor(majorOf(base).times(new Big(tax.percent)), 100, base.currency);
  return oneSign && Math.abs(amount.minor) > Math.abs(taxLeft) ? money(taxLeft, base.currency) : amount;
}

function haveOneSign(lines: readonly InvoiceLine[]): boolean {
  return lines.every((l) => l.net.minor >= 0) || lines.every((l) => l.net.minor <= 0);
}
