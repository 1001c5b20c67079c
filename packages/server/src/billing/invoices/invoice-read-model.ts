import {
  type InvoiceFilter,
  type InvoiceLine,
  type InvoiceRowWire,
  type InvoiceWire,
  type IssuedInvoice,
  paymentState,
} from '@core/billing';
import { dateOf, daysBetween, formatInstant, type Instant, isRefusal, type Outcome, type Page, refuse } from '@core/ground';
import { wireAt, type Columns, type Db } from '../../app/database';
import { containing, keysetPage, type Sort } from '../../app/keyset-page';
import { plainDecimal } from '../../app/plain-decimal';
import type { HouseBook } from '../../house/house/house-book';

function rowsQuery(db: Db) {
  return db('invoice as i')
    .join('client as c', 'c.id', 'i.client_id')
    .join('invoice_standing as s', 's.invoice_id', 'i.id')
    .select('i.*', 'c.name as client', 's.paid_minor', 's.mailed_at', 's.ledger_at', 's.undelivered_at');
}

function rowWire(i: Columns, book: HouseBook, now: Instant): InvoiceRowWire {
  const row = i as unknown as {
    id: string;
    number: string;
    client_id: string;
    client: string;
    issued_on: string;
    due_on: string;
    gross_minor: number;
    paid_minor: number;
    currency: 'EUR';
    mailed_at: Instant | null;
    ledger_at: Instant | null;
    undelivered_at: Instant | null;
  };
  const gross = { minor: row.gross_minor, currency: row.currency };
  const state = paymentState(
    gross,
    { minor: row.paid_minor, currency: row.currency },
    daysBetween(row.due_on as never, dateOf(now, book.house.zone)),
  );
  return {
    id: row.id,
    number: row.number,
    clientId: row.client_id,
    client: row.client,
    issuedOn: row.issued_on,
    dueOn: row.due_on,
    gross,
    left: 'left' in state ? state.left : { minor: 0, currency: row.currency },
    state: state.is,
    mailedAt: wireAt(row.mailed_at),
    undeliveredAt: wireAt(row.undelivered_at),
    ledgerAt: wireAt(row.ledger_at),
  };
}

const LEFT = '(i.gross_minor - s.paid_minor)';
const SORTS: Readonly<Record<string, Sort>> = {
  issued: { by: 'i.issued_on', way: 'desc', type: 'date' },
  due: { by: 'i.due_on', way: 'asc', type: 'date' },
  number: { by: 'i.number', way: 'desc', type: 'text' },
  client: { by: '(select name from client where id = i.client_id)', way: 'asc', type: 'text' },
  gross: { by: 'i.gross_minor', way: 'desc', type: 'int' },
};
/** The stored figures that each payment state stands on; a test holds them to core's paymentState. */
const STATES: Readonly<Record<string, string>> = {
  open: `${LEFT} > 0 and i.due_on >= :today and s.paid_minor <= 0`,
  overdue: `${LEFT} > 0 and i.due_on < :today`,
  'part paid': `${LEFT} > 0 and i.due_on >= :today and s.paid_minor > 0`,
  paid: `${LEFT} <= 0`,
};

export async function listInvoices(db: Db, book: HouseBook, filter: InvoiceFilter, now: Instant): Promise<Outcome<Page<InvoiceRowWire>>> {
  const matching = () =>
    db('invoice as i')
      .join('invoice_standing as s', 's.invoice_id', 'i.id')
      .modify((q) => {
        if (filter.clientId) void q.where('i.client_id', filter.clientId);
        if (filter.q) void q.whereRaw('i.number ilike ?', [containing(filter.q)]);
        if (filter.state) void q.whereRaw(STATES[filter.state]!, { today: dateOf(now, book.house.zone) });
      });
  const select = (q: ReturnType<Db['queryBuilder']>) =>
    q
      .join('client as c', 'c.id', 'i.client_id')
      .select('i.*', 'c.name as client', 's.paid_minor', 's.mailed_at', 's.ledger_at', 's.undelivered_at');
  const page = await keysetPage(db, { matching, id: 'i.id', sorts: SORTS, select }, filter);
  return isRefusal(page) ? page : { ...page, rows: page.rows.map((r) => rowWire(r, book, now)) };
}

export async function readInvoice(db: Db, book: HouseBook, invoiceId: string, now: Instant): Promise<Outcome<InvoiceWire>> {
  const row = await rowsQuery(db).where('i.id', invoiceId).first();
  if (!row) return refuse('not-found', 'There is no such invoice.');
  const [lines, groups, events, charges] = await Promise.all([
    db('invoice_line').where({ invoice_id: invoiceId }).orderBy('position'),
    db('invoice_tax').where({ invoice_id: invoiceId }),
    db('invoice_event').where({ invoice_id: invoiceId }).orderBy('id'),
    db('charge as ch')
      .leftJoin('ticket as t', 't.id', 'ch.ticket_id')
      .leftJoin('person as p', 'p.id', 'ch.person_id')
      .where({ invoice_id: invoiceId })
      .select('ch.id', 'ch.ticket_id', 'ch.explanation', 't.number', 'p.name'),
  ]);
  const money = (minor: number) => ({ minor, currency: row.currency });
  return {
    ...rowWire(row, book, now),
    seller: row.seller,
    buyer: row.buyer,
    lines: lines.map((l) => ({
      position: l.position,
      description: l.description,
      quantity: plainDecimal(l.quantity),
      unit: l.unit,
      unitPrice: plainDecimal(l.unit_price),
      net: money(l.net_minor),
      taxCategory: l.tax_category,
      taxPercent: plainDecimal(l.tax_percent),
      trail: charges
        .filter((c) => l.charge_ids.includes(c.id))
        .map((c) => ({ chargeId: c.id, ticketId: c.ticket_id, ticketNumber: c.number, person: c.name, why: c.explanation })),
    })),
    groups: groups.map((g) => ({
      category: g.tax_category,
      percent: plainDecimal(g.tax_percent),
      base: money(g.base_minor),
      tax: money(g.tax_minor),
    })),
    net: money(row.net_minor),
    tax: money(row.tax_minor),
    paid: money(row.paid_minor),
    events: events.map((e) => ({ at: formatInstant(e.at), what: e.event, detail: e.detail })),
  };
}

/** The invoice as core's documents take it. */
export async function issuedInvoice(db: Db, invoiceId: string): Promise<IssuedInvoice | undefined> {
  const row = await db('invoice').where({ id: invoiceId }).first();
  if (!row) return undefined;
  const [lines, groups] = await Promise.all([
    db('invoice_line').where({ invoice_id: invoiceId }).orderBy('position'),
    db('invoice_tax')
      .where({ invoice_id: invoiceId })
      .orderBy(['tax_category', { column: 'tax_percent', order: 'desc' }]),
  ]);
  const money = (minor: number) => ({ minor, currency: row.currency });
  const tax = (r: { tax_category: 'S'; tax_percent: string }) => ({ category: r.tax_category, percent: plainDecimal(r.tax_percent) });
  return {
    number: row.number,
    issuedOn: row.issued_on,
    dueOn: row.due_on,
    currency: row.currency,
    seller: row.seller,
    buyer: row.buyer,
    lines: lines.map((l): InvoiceLine => ({
      position: l.position,
      description: l.description,
      quantity: plainDecimal(l.quantity),
      unit: l.unit,
      unitPrice: plainDecimal(l.unit_price),
      net: money(l.net_minor),
      tax: tax(l),
      chargeIds: l.charge_ids,
    })),
    totals: {
      net: money(row.net_minor),
      tax: money(row.tax_minor),
      gross: money(row.gross_minor),
      groups: groups.map((g) => ({ tax: tax(g), base: money(g.base_minor), amount: money(g.tax_minor) })),
    },
  };
}
