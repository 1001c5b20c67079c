import {
  type DocumentKind,
  invoiceNumber,
  type InvoiceLine,
  type InvoicePart,
  type InvoiceTotals,
  partKey,
  type Party,
  sayPart,
  type Seller,
} from '@core/billing';
import { dateOf, type Id, plusDays } from '@core/ground';
import type { HouseBook } from '../../house';
import { type ChargeOf, tellCharges } from '../charges/tell-charges';
import { at } from '../../app/database';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';

export interface NewDocument {
  readonly kind: DocumentKind;
  /** The client's row. */
  readonly client: Row<'client'>;
  readonly lines: readonly InvoiceLine[];
  readonly totals: InvoiceTotals;
  /** Of an invoice: what it is for, where its client gets several, and the client's order. */
  readonly part?: InvoicePart;
  readonly purchaseOrder?: string | null;
  /** Of a credit note of an invoice. */
  readonly corrects?: { readonly id: Id<'invoice'>; readonly buyer: Party; readonly reason: string; readonly undoes: boolean };
}

/**
 * Issues a document: number, lines, tax and what it bills in one transaction, or nothing. The series row is locked, so
 * numbers have no gap and no double however many issue at once. Source: docs/calculations.md, What is billed.
 * @throws Error where its division has no series for this kind
 */
export async function issueDocument(
  work: Work,
  { kind, client, lines, totals, part, purchaseOrder, corrects }: NewDocument,
): Promise<{ id: Id<'invoice'>; number: string }> {
  const { tx, book } = work;
  const { seriesId, sequence, number } = await nextNumber(work, client.division_id, kind);
  const issuedOn = dateOf(work.now, book.house.zone);
  const [issued] = await tx('invoice')
    .insert({
      kind,
      division_id: client.division_id,
      series_id: seriesId,
      sequence,
      number,
      client_id: client.id,
      issued_at: at(work.now),
      issued_on: issuedOn,
      due_on: kind === 'invoice' ? plusDays(issuedOn, client.payment_days) : issuedOn,
      currency: totals.gross.currency,
      seller: JSON.stringify(sellerOf(book, client.division_id)),
      buyer: JSON.stringify(corrects?.buyer ?? buyerOf(client)),
      net_minor: totals.net.minor,
      tax_minor: totals.tax.minor,
      gross_minor: totals.gross.minor,
      issued_by: work.actor.personId,
      part_key: part ? partKey(part) : '',
      billed_for: part && part.per !== 'purchase order' && part.name !== null ? sayPart(part) : null,
      purchase_order: purchaseOrder ?? null,
      ...(corrects ? { corrects_id: corrects.id, reason: corrects.reason, undoes: corrects.undoes } : {}),
    })
    .returning('id');
  const { id } = issued!;
  await storeLines(work, id, { lines, totals });
  await tx('invoice_standing').insert({ invoice_id: id });
  await work.enqueue('deliver-invoice', { invoiceId: id }, { key: `deliver-invoice:${id}` });
  await work.enqueue('push-invoice', { invoiceId: id }, { key: `push-invoice:${id}` });
  await work.tell('invoice.issued', id, { number, kind });
  await tellBilled(work, id);
  return { id, number };
}

/** The tickets whose charges a document bills show that at once. */
async function tellBilled(work: Work, invoiceId: Id<'invoice'>): Promise<void> {
  const billed: ChargeOf[] = await work
    .tx('billing_link as l')
    .join('charge as ch', 'ch.id', 'l.charge_id')
    .where({ 'l.invoice_id': invoiceId })
    .select('ch.ticket_id', 'ch.client_id');
  await tellCharges(work, billed);
}

/** The provider under the name that its division's clients know. */
function sellerOf(book: HouseBook, divisionId: Id<'division'>): Seller {
  const { brand } = book.division(divisionId);
  const { seller, provider } = book.house;
  return { ...seller, tradingName: brand === provider || brand === seller.name ? null : brand };
}

async function nextNumber({ tx }: Work, divisionId: Id<'division'>, kind: DocumentKind) {
  const [series] = await tx('invoice_series').where({ division_id: divisionId, kind }).orderBy('prefix').limit(1).forUpdate();
  if (!series) throw new Error(`division ${divisionId} has no series of numbers for a ${kind}`);
  const sequence: number = series.last_number + 1;
  await tx('invoice_series').where({ id: series.id }).update({ last_number: sequence });
  return { seriesId: series.id as string, sequence, number: invoiceNumber(series.prefix, sequence) };
}

async function storeLines({ tx }: Work, invoiceId: Id<'invoice'>, { lines, totals }: Pick<NewDocument, 'lines' | 'totals'>): Promise<void> {
  await tx.batchInsert(
    'invoice_line',
    lines.map((l) => ({
      invoice_id: invoiceId,
      position: l.position,
      description: l.description,
      details: l.details,
      quantity: l.quantity,
      unit: l.unit,
      unit_price: l.unitPrice,
      net_minor: l.net.minor,
      tax_category: l.tax.category,
      tax_percent: l.tax.percent,
      corrects_position: l.corrects,
    })),
    AT_ONCE,
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
  const links = lines.flatMap((l) =>
    l.links.map(({ chargeId, does, net }) => ({
      invoice_id: invoiceId,
      position: l.position,
      charge_id: chargeId,
      does,
      net_minor: net.minor,
    })),
  );
  await tx.batchInsert('billing_link', links, AT_ONCE);
}

/** Rows of one insert, well under what one statement takes. */
const AT_ONCE = 1000;

function buyerOf(client: Row<'client'>): Party {
  return {
    name: client.name,
    street: client.street,
    city: client.city,
    postcode: client.postcode,
    country: client.country,
    taxNumber: client.tax_number ?? null,
    email: client.invoice_email,
    phone: '',
  };
}
