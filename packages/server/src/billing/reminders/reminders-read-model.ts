import type { ReminderPauseWire } from '@core/billing';
import { formatInstant, type Id, type LocalDate, money, refuse } from '@core/ground';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import type { HouseBook } from '../../house';
import { readDue, readOwed } from './due-reminders';

export async function listDueReminders(db: Db, book: HouseBook, today: LocalDate) {
  const due = await readDue(db, book, today);
  const settings: Row<'reminder_settings'> = (await db('reminder_settings').first())!;
  return {
    due: due.map((d) => ({ ...d, invoices: d.invoices.map((i) => ({ ...i })) })),
    invoices: due.reduce((sum, d) => sum + d.invoices.length, 0),
    total: money(
      due.reduce((sum, d) => sum + d.total.minor, 0),
      book.house.currency,
    ),
    paused: await readPauses(db, today),
    byThemselves: settings.by_themselves,
  };
}

type PauseRow = Row<'reminder_pause'> & { readonly client: string; readonly number: string | null };

/** Pauses that are not over. */
async function readPauses(
  db: Db,
  today: LocalDate,
  of?: { readonly clientId: Id<'client'>; readonly invoiceId: Id<'invoice'> },
): Promise<ReminderPauseWire[]> {
  const rows: PauseRow[] = await db('reminder_pause as p')
    .join('client as c', 'c.id', 'p.client_id')
    .leftJoin('invoice as i', 'i.id', 'p.invoice_id')
    .whereNull('p.ended_at')
    .whereRaw('(p.until is null or p.until >= ?)', [today])
    .modify((q) => of && void q.where('p.client_id', of.clientId).whereRaw('(p.invoice_id is null or p.invoice_id = ?)', [of.invoiceId]))
    .orderBy(['c.name', 'p.at'])
    .select('p.*', 'c.name as client', 'i.number');
  return rows.map((p) => ({
    ...{ id: p.id, clientId: p.client_id, client: p.client, invoiceId: p.invoice_id, number: p.number },
    ...{ until: p.until, reason: p.reason, by: p.who_name },
  }));
}

/** What was reminded of an invoice, and when it is next. */
export async function readInvoiceReminders(db: Db, { invoiceId, today }: { readonly invoiceId: Id<'invoice'>; readonly today: LocalDate }) {
  const invoice: Row<'invoice', 'client_id'> | undefined = await db('invoice').where({ id: invoiceId }).first('client_id');
  if (!invoice) return refuse('not-found', 'There is no such invoice.');
  const sent: (Row<'reminder'> & { readonly invoice_step: number })[] = await db('reminder_invoice as ri')
    .join('reminder as r', 'r.id', 'ri.reminder_id')
    .where('ri.invoice_id', invoiceId)
    .orderBy('ri.step')
    .select('r.*', 'ri.step as invoice_step');
  const [owed] = await readOwed(db, { today, invoiceId });
  const next = owed?.next;
  return {
    sent: sent.map((r) => ({
      ...{ id: r.id, step: r.invoice_step, at: formatInstant(r.at), by: r.who_name, to: r.mail_to },
      mailedAt: r.mailed_at && formatInstant(r.mailed_at),
      undeliveredAt: r.undelivered_at && formatInstant(r.undelivered_at),
    })),
    next: !next
      ? { is: 'nothing owed' as const, step: null, day: null }
      : next.is === 'on'
        ? { is: next.is, step: next.step + 1, day: next.day }
        : { is: next.is, step: null, day: null },
    pauses: await readPauses(db, today, { clientId: invoice.client_id, invoiceId }),
  };
}
