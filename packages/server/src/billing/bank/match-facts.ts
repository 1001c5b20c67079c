import type { BankLine, KnownPayer, KnownPayment, MatchFacts, OpenInvoice } from '@core/billing';
import { type Id, money } from '@core/ground';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';

/** Payments written down before the first line by more than this are of another. */
const DAYS_BACK = 60;

/** What lines of a bank may be for: what is open, how clients are known, and money that was written down by hand or came by the ledger. */
export async function readMatchFacts(db: Db): Promise<MatchFacts> {
  const invoices: (Row<'invoice', 'id' | 'number' | 'client_id' | 'gross_minor' | 'currency' | 'due_on'> &
    Row<'invoice_standing', 'settled_minor'>)[] = await db('invoice as i')
    .join('invoice_standing as s', 's.invoice_id', 'i.id')
    .where('i.kind', 'invoice')
    .whereRaw('s.settled_minor < i.gross_minor')
    .select('i.id', 'i.number', 'i.client_id', 'i.gross_minor', 'i.currency', 'i.due_on', 's.settled_minor');
  return { invoices: invoices.map(openOf), payers: await readPayers(db), payments: await readPayments(db) };
}

function openOf(
  i: Row<'invoice', 'id' | 'number' | 'client_id' | 'gross_minor' | 'currency' | 'due_on'> & Row<'invoice_standing', 'settled_minor'>,
): OpenInvoice {
  return { id: i.id, number: i.number, clientId: i.client_id, left: money(i.gross_minor - i.settled_minor, i.currency), dueOn: i.due_on };
}

async function readPayers(db: Db): Promise<KnownPayer[]> {
  const clients: Row<'client', 'id' | 'name'>[] = await db('client').select('id', 'name');
  const matched: { client_id: Id<'client'>; payer: string; payer_account: string }[] = await db('bank_line as l')
    .join('payment as p', 'p.id', 'l.payment_id')
    .whereNotNull('p.client_id')
    .distinct('p.client_id', 'l.payer', 'l.payer_account');
  const of = new Map<string, typeof matched>();
  for (const m of matched) of.set(m.client_id, [...(of.get(m.client_id) ?? []), m]);
  return clients.map(({ id, name }) => ({
    clientId: id,
    names: [name, ...(of.get(id) ?? []).map((m) => m.payer).filter(Boolean)],
    accounts: (of.get(id) ?? []).map((m) => m.payer_account).filter(Boolean),
  }));
}

async function readPayments(db: Db): Promise<KnownPayment[]> {
  const rows: (Row<'payment'> & { readonly used: number })[] = await db('payment as p')
    .whereNotNull('p.client_id')
    .whereNotExists(db('bank_line as l').whereRaw('l.payment_id = p.id').select('l.id'))
    .whereNotExists(db('payment_return as r').whereRaw('r.payment_id = p.id').select('r.id'))
    .whereRaw(`p.received_on >= (select min(booked_on) from bank_line where state = 'open') - ${DAYS_BACK}`)
    .select('p.*', db.raw(`coalesce((select sum(a.amount_minor) from allocation a where a.payment_id = p.id), 0)::bigint as used`));
  return rows.map((p) => ({
    id: p.id,
    clientId: p.client_id!,
    amount: money(p.amount_minor, p.currency),
    left: money(p.amount_minor - Number(p.used), p.currency),
    receivedOn: p.received_on,
  }));
}

export function bankLineOf(row: Row<'bank_line'>): BankLine {
  return {
    place: row.place,
    bankId: row.bank_id,
    bookedOn: row.booked_on,
    amount: money(row.amount_minor, row.currency),
    payer: row.payer,
    payerAccount: row.payer_account,
    text: row.text,
  };
}
