import { dateOf, type Outcome, plusDays, refuse } from '@core/ground';
import {
  invoiceLines,
  invoiceNumber,
  invoiceTotals,
  type ChargeToInvoice,
  type InvoiceLine,
  type InvoiceTotals,
  type Party,
} from '@core/billing';
import { at, type Columns, type Db } from '../../app/database';
import { plainDecimal } from '../../app/plain-decimal';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house/house/house-book';

export interface Composed {
  readonly lines: InvoiceLine[];
  readonly totals: InvoiceTotals;
}

/** Cleared charges of a client as an invoice would show them; `only` narrows to some. */
export async function clearedCharges(db: Db, clientId: string, only?: readonly string[]): Promise<ChargeToInvoice[]> {
  const rows = await db('charge')
    .where({ client_id: clientId, state: 'approved' })
    .modify((q) => only && void q.whereIn('id', [...only]))
    .orderBy(['on_date', 'ticket_id', 'part', 'id']);
  return rows.map((r: Columns) => ({
    id: r.id,
    description: r.description,
    quantity: plainDecimal(r.quantity),
    unit: r.unit,
    unitPrice: plainDecimal(r.unit_price),
    net: { minor: r.net_minor, currency: r.currency },
    tax: { category: r.tax_category, percent: plainDecimal(r.tax_percent) },
  }));
}

export function compose(charges: readonly ChargeToInvoice[], book: HouseBook): Composed {
  const lines = invoiceLines(charges);
  return { lines, totals: invoiceTotals(lines, book.house.currency) };
}

/**
 * Issues an invoice: number, lines, tax and the charges' link in one transaction, or nothing. The series row
 * is locked, so numbers have no gap and no double however many issue at once.
 */
export async function issueInvoice(
  work: Work,
  book: HouseBook,
  clientId: string,
  chargeIds: readonly string[],
): Promise<Outcome<{ id: string; number: string }>> {
  const { tx } = work;
  const client = await tx('client').where({ id: clientId }).first();
  if (!client) return refuse('not-found', 'There is no such client.');
  const locked = await tx('charge')
    .whereIn('id', [...new Set(chargeIds)])
    .where({ client_id: clientId, state: 'approved' })
    .orderBy('id')
    .forUpdate()
    .select('id');
  if (locked.length !== new Set(chargeIds).size)
    return refuse(
      'changed-meanwhile',
      'Some of these charges are not cleared any more, or are on an invoice already. Look at the preview again.',
    );
  const { lines, totals } = compose(await clearedCharges(tx, clientId, chargeIds), book);
  const [series] = await tx('invoice_series').where({ division_id: client.division_id }).orderBy('prefix').limit(1).forUpdate();
  const sequence = series.last_number + 1;
  await tx('invoice_series').where({ id: series.id }).update({ last_number: sequence });
  const issuedOn = dateOf(work.now, book.house.zone);
  const number = invoiceNumber(series.prefix, sequence);
  const [{ id }] = await tx('invoice')
    .insert({
      division_id: client.division_id,
      series_id: series.id,
      sequence,
      number,
      client_id: clientId,
      issued_at: at(work.now),
      issued_on: issuedOn,
      due_on: plusDays(issuedOn, client.payment_days),
      currency: book.house.currency,
      seller: JSON.stringify(book.house.seller),
      buyer: JSON.stringify(buyerOf(client)),
      net_minor: totals.net.minor,
      tax_minor: totals.tax.minor,
      gross_minor: totals.gross.minor,
      issued_by: work.actor.personId,
    })
    .returning('id');
  await storeLines(work, id, { lines, totals });
  await tx('charge')
    .whereIn('id', [...chargeIds])
    .update({ state: 'invoiced', invoice_id: id, version: tx.raw('version + 1') });
  await tx('invoice_standing').insert({ invoice_id: id });
  await tx('invoice_event').insert({ invoice_id: id, at: at(work.now), event: 'issued', detail: `by ${work.actor.name}` });
  await work.enqueue('deliver-invoice', { invoiceId: id }, `deliver-invoice:${id}`);
  await work.enqueue('push-invoice', { invoiceId: id }, `push-invoice:${id}`);
  await work.tell('invoice.issued', id, { number });
  await work.emit('charge', null);
  return { id, number };
}

async function storeLines({ tx }: Work, invoiceId: string, { lines, totals }: Composed): Promise<void> {
  await tx('invoice_line').insert(
    lines.map((l) => ({
      invoice_id: invoiceId,
      position: l.position,
      description: l.description,
      quantity: l.quantity,
      unit: l.unit,
      unit_price: l.unitPrice,
      net_minor: l.net.minor,
      tax_category: l.tax.category,
      tax_percent: l.tax.percent,
      charge_ids: l.chargeIds,
    })),
  );
  await tx('invoice_tax').insert(
    totals.groups.map((g) => ({
      invoice_id: invoiceId,
      tax_category: g.tax.category,
      tax_percent: g.tax.percent,
      base_minor: g.base.minor,
      tax_minor: g.amount.minor,
    })),
  );
}

function buyerOf(client: Record<string, string | null>): Party {
  return {
    name: client['name']!,
    street: client['street']!,
    city: client['city']!,
    postcode: client['postcode']!,
    country: client['country']!,
    taxNumber: client['tax_number'] ?? null,
    email: client['invoice_email']!,
    phone: '',
  };
}
