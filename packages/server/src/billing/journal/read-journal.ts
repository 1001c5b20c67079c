import { bookDocument, type BookedDocument, type BookedPayment, bookPayment, type ChargeKind, type JournalEntry } from '@core/billing';
import { type Id, type LocalDate, money, type Outcome, refuse, type Zone } from '@core/ground';
import type { Db } from '../../app/database';
import { plainDecimal } from '../../app/plain-decimal';
import type { Row } from '../../app/rows';

export interface JournalDays {
  readonly from: LocalDate;
  readonly to: LocalDate;
}

/** All that was issued and received from a day to a day, in the order in which it was; documents of a day by their number. */
export async function readJournal(
  db: Db,
  { from, to, zone }: JournalDays & { readonly zone: Zone },
): Promise<Outcome<readonly JournalEntry[]>> {
  if (from > to) return refuse('invalid', `${from} is after ${to}.`, { from: `${to} or a day before` });
  const documents = (await readDocuments(db, { from, to })).map(bookDocument);
  const payments = [...(await readPayments(db, { from, to })), ...(await readReturns(db, { from, to, zone }))].map(bookPayment);
  return [...documents, ...payments].toSorted((a, b) => (a.on < b.on ? -1 : a.on > b.on ? 1 : 0));
}

type DocumentRow = Row<'invoice', 'id' | 'kind' | 'number' | 'issued_on' | 'currency' | 'gross_minor'> & {
  readonly client: string;
  readonly client_number: number;
};

async function readDocuments(db: Db, { from, to }: JournalDays): Promise<BookedDocument[]> {
  const rows: DocumentRow[] = await db('invoice as i')
    .join('client as c', 'c.id', 'i.client_id')
    .whereBetween('i.issued_on', [from, to])
    .orderBy(['i.issued_on', 'i.number'])
    .select('i.id', 'i.kind', 'i.number', 'i.issued_on', 'i.currency', 'i.gross_minor', 'c.name as client', 'c.number as client_number');
  const nets = await byInvoice<{ invoice_id: Id<'invoice'>; kind: ChargeKind; net: number }>(
    db('billing_link as k')
      .join('invoice as i', 'i.id', 'k.invoice_id')
      .leftJoin('charge as ch', 'ch.id', 'k.charge_id')
      .whereBetween('i.issued_on', [from, to])
      .groupByRaw(`k.invoice_id, coalesce(ch.kind, 'recurring')`)
      .orderByRaw(`coalesce(ch.kind, 'recurring')`)
      .select('k.invoice_id', db.raw(`coalesce(ch.kind, 'recurring') as kind, sum(k.net_minor)::bigint as net`)),
  );
  const taxes = await byInvoice<Row<'invoice_tax'>>(
    db('invoice_tax as t')
      .join('invoice as i', 'i.id', 't.invoice_id')
      .whereBetween('i.issued_on', [from, to])
      .orderBy(['t.tax_category', 't.tax_percent'])
      .select('t.*'),
  );
  return rows.map((r) => {
    const amount = (minor: number) => money(Number(minor), r.currency);
    return {
      ...{ kind: r.kind, number: r.number, on: r.issued_on, client: r.client, clientNumber: r.client_number, gross: amount(r.gross_minor) },
      // What a credit note links is signed as the charge is, and it gives that.
      nets: (nets.get(r.id) ?? []).map((n) => ({ kind: n.kind, net: amount(r.kind === 'credit note' ? -n.net : n.net) })),
      taxes: (taxes.get(r.id) ?? []).map((t) => ({
        tax: { category: t.tax_category, percent: plainDecimal(t.tax_percent) },
        amount: amount(t.tax_minor),
      })),
    };
  });
}

async function byInvoice<R extends { readonly invoice_id: string }>(
  rows: PromiseLike<unknown>,
): Promise<ReadonlyMap<string, readonly R[]>> {
  const of = new Map<string, R[]>();
  for (const row of (await rows) as R[]) of.set(row.invoice_id, [...(of.get(row.invoice_id) ?? []), row]);
  return of;
}

type PaymentRow = Row<'payment'> & { readonly client: string | null; readonly client_number: number | null };

async function readPayments(db: Db, { from, to }: JournalDays): Promise<BookedPayment[]> {
  const rows: PaymentRow[] = await db('payment as p')
    .leftJoin('client as c', 'c.id', 'p.client_id')
    .whereBetween('p.received_on', [from, to])
    .orderBy(['p.received_on', 'p.at', 'p.id'])
    .select('p.*', 'c.name as client', 'c.number as client_number');
  return rows.map((p) => ({
    ...{ what: 'payment' as const, on: p.received_on, name: p.reference, client: p.client ?? '', clientNumber: p.client_number },
    amount: money(p.amount_minor, p.currency),
  }));
}

type ReturnRow = Row<'payment_return'> & Omit<PaymentRow, 'id' | 'at' | 'amount_minor'> & { readonly on_day: LocalDate };

/** On the day on which it was taken back, on the provider's wall clock. */
async function readReturns(db: Db, { from, to, zone }: JournalDays & { readonly zone: Zone }): Promise<BookedPayment[]> {
  const day = db.raw('(r.at at time zone ?)::date', [zone]);
  const rows: ReturnRow[] = await db('payment_return as r')
    .join('payment as p', 'p.id', 'r.payment_id')
    .leftJoin('client as c', 'c.id', 'p.client_id')
    .whereRaw('(r.at at time zone ?)::date between ? and ?', [zone, from, to])
    .orderBy(['r.at', 'r.id'])
    .select('r.amount_minor', 'p.currency', 'p.reference', 'c.name as client', 'c.number as client_number', db.raw('? as on_day', [day]));
  return rows.map((r) => ({
    ...{ what: 'payment taken back' as const, on: r.on_day, name: r.reference, client: r.client ?? '', clientNumber: r.client_number },
    amount: money(r.amount_minor, r.currency),
  }));
}
