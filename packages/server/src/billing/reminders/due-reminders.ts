import { type DueReminderWire, fillReminder, nextReminder, type NextReminder, type ReminderStepWire, shownName } from '@core/billing';
import { formatMoney, type Id, type LocalDate, money, type Money, sayDay } from '@core/ground';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import type { HouseBook } from '../../house';

export interface OwedInvoice {
  readonly id: Id<'invoice'>;
  readonly number: string;
  readonly clientId: Id<'client'>;
  readonly client: string;
  readonly to: string;
  readonly dueOn: LocalDate;
  readonly left: Money;
  readonly next: NextReminder;
}

type OwedRow = Row<'invoice', 'id' | 'number' | 'client_id' | 'due_on' | 'currency'> & {
  readonly client: string;
  readonly invoice_email: string;
  readonly left_minor: number;
  readonly reminded: readonly LocalDate[];
  readonly paused: LocalDate | null;
  readonly paused_always: boolean;
};

export async function readSteps(db: Db): Promise<readonly ReminderStepWire[]> {
  const steps: Row<'reminder_step'>[] = await db('reminder_step').orderBy('position');
  return steps.map((s) => ({ afterDays: s.after_days, subject: s.subject, text: s.text }));
}

/** Invoices of which something is left and whose day is over, with what is sent of each next. */
export async function readOwed(
  db: Db,
  { today, invoiceId }: { readonly today: LocalDate; readonly invoiceId?: Id<'invoice'> },
): Promise<readonly OwedInvoice[]> {
  const steps = await readSteps(db);
  const { rows } = await db.raw<{ rows: OwedRow[] }>(
    `select i.id, i.number, i.client_id, i.due_on, i.currency, i.gross_minor - s.settled_minor as left_minor, c.name as client, c.invoice_email,
       array(select on_date::text from reminder_invoice r where r.invoice_id = i.id order by step) as reminded, pause.paused, coalesce(pause.always, false) as paused_always
     from invoice i join invoice_standing s on s.invoice_id = i.id join client c on c.id = i.client_id
       left join lateral (
         select max(until) as paused, bool_or(until is null) as always from reminder_pause p
         where p.client_id = i.client_id and (p.invoice_id is null or p.invoice_id = i.id) and p.ended_at is null
       ) pause on true
     where i.kind = 'invoice' and s.settled_minor < i.gross_minor and (i.due_on < :today or i.id = :invoiceId) ${invoiceId ? 'and i.id = :invoiceId' : ''}
     order by c.name, i.due_on, i.number`,
    { today, invoiceId: invoiceId ?? null } as never,
  );
  return rows.map((r) => ({
    ...{ id: r.id, number: r.number, clientId: r.client_id, client: r.client, to: r.invoice_email, dueOn: r.due_on },
    left: money(Number(r.left_minor), r.currency),
    next: nextReminder({ dueOn: r.due_on, remindedOn: r.reminded, pausedUntil: r.paused_always ? 'always' : r.paused }, steps),
  }));
}

/** The mails that are due, one each client. */
export async function readDue(db: Db, book: HouseBook, today: LocalDate): Promise<readonly DueReminderWire[]> {
  const steps = await readSteps(db);
  const due = (await readOwed(db, { today })).flatMap((i) =>
    i.next.is === 'on' && i.next.day <= today ? [{ ...i, step: i.next.step }] : [],
  );
  const clients = [...new Set(due.map((i) => i.clientId))];
  return clients.map((clientId) => {
    const invoices = due.filter((i) => i.clientId === clientId);
    const { client, to, left } = invoices[0]!;
    const total = money(
      invoices.reduce((sum, i) => sum + i.left.minor, 0),
      left.currency,
    );
    const step = Math.max(...invoices.map((i) => i.step));
    const us = shownName(book.house.seller);
    const numbers = { client, us, total: formatMoney(total), invoices: invoices.map((i) => i.number).join(', ') };
    const lines = { ...numbers, invoices: invoices.map((i) => `${i.number}, due ${sayDay(i.dueOn)}: ${formatMoney(i.left)}`).join('\n') };
    return {
      ...{ clientId, client, to, total, step: step + 1 },
      invoices: invoices.map((i) => ({ id: i.id, number: i.number, dueOn: i.dueOn, left: i.left, step: i.step + 1 })),
      // Where there are many, a subject would never end.
      subject: fillReminder(
        steps[step]!.subject,
        invoices.length > 4 ? { ...numbers, invoices: `${invoices.length} invoices` } : numbers,
      ).slice(0, 300),
      text: fillReminder(steps[step]!.text, lines),
    };
  });
}
