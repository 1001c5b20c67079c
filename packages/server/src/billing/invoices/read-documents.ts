import type { InvoiceLine, IssuedInvoice } from '@core/billing';
import { type Id, type LocalDate, money } from '@core/ground';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { plainDecimal } from '../../app/plain-decimal';

type DocumentRow = Row<'invoice'> & { readonly corrects_number: string | null; readonly corrects_issued_on: LocalDate | null };

/** Issued documents as core takes them, in the order of the ids given; one read of each table, however many they are. */
export async function readDocuments(db: Db, ids: readonly string[]): Promise<IssuedInvoice[]> {
  const [rows, lines, links, groups]: [DocumentRow[], Row<'invoice_line'>[], Row<'billing_link'>[], Row<'invoice_tax'>[]] =
    await Promise.all([
      db('invoice as i')
        .leftJoin('invoice as c', 'c.id', 'i.corrects_id')
        .whereIn('i.id', ids)
        .select('i.*', 'c.number as corrects_number', 'c.issued_on as corrects_issued_on'),
      db('invoice_line').whereIn('invoice_id', ids).orderBy('position'),
      db('billing_link').whereIn('invoice_id', ids).orderBy('id'),
      db('invoice_tax')
        .whereIn('invoice_id', ids)
        .orderBy(['tax_category', { column: 'tax_percent', order: 'desc' }]),
    ]);
  const of = <T extends { readonly invoice_id: string }>(all: readonly T[], id: Id<'invoice'>) => all.filter((r) => r.invoice_id === id);
  return ids.flatMap((id) => {
    const row = rows.find((r) => r.id === id);
    return row ? [documentOf({ row, lines: of(lines, id), links: of(links, id), groups: of(groups, id) })] : [];
  });
}

function documentOf({
  row,
  lines,
  links,
  groups,
}: {
  readonly row: DocumentRow;
  readonly lines: readonly Row<'invoice_line'>[];
  readonly links: readonly Row<'billing_link', 'position' | 'charge_id' | 'does' | 'net_minor'>[];
  readonly groups: readonly Row<'invoice_tax'>[];
}): IssuedInvoice {
  const amount = (minor: number) => money(minor, row.currency);
  const tax = (r: Row<'invoice_line', 'tax_category' | 'tax_percent'>) => ({
    category: r.tax_category,
    percent: plainDecimal(r.tax_percent),
  });
  return {
    kind: row.kind,
    number: row.number,
    issuedOn: row.issued_on,
    dueOn: row.due_on,
    corrects: row.corrects_number ? { number: row.corrects_number, issuedOn: row.corrects_issued_on!, reason: row.reason! } : null,
    currency: row.currency,
    billedFor: row.billed_for,
    purchaseOrder: row.purchase_order,
    seller: row.seller,
    buyer: row.buyer,
    lines: lines.map((l): InvoiceLine => ({
      position: l.position,
      description: l.description,
      details: l.details,
      quantity: plainDecimal(l.quantity),
      unit: l.unit,
      unitPrice: plainDecimal(l.unit_price),
      net: amount(l.net_minor),
      tax: tax(l),
      links: links
        .filter((k) => k.position === l.position)
        .map((k) => ({ chargeId: k.charge_id!, does: k.does, net: amount(k.net_minor) })),
      corrects: l.corrects_position,
    })),
    totals: {
      net: amount(row.net_minor),
      tax: amount(row.tax_minor),
      gross: amount(row.gross_minor),
      groups: groups.map((g) => ({ tax: tax(g), base: amount(g.base_minor), amount: amount(g.tax_minor) })),
    },
  };
}
