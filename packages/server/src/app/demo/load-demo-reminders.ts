import { dateOf, type Instant, isRefusal, type LocalDate, plusDays, plusSeconds } from '@core/ground';
import { creditInvoice } from '../../billing/invoices/credit-invoice';
import { readDue } from '../../billing/reminders/due-reminders';
import { sendReminders } from '../../billing/reminders/send-reminders';
import { at } from '../database';
import type { Work } from '../work';
import { workOn } from './work-on';

/** Days before the story's on which somebody sent what was due. */
const SENT_BEFORE = [32, 18];
/** Whose line was credited, and how many days before the story. */
const CREDITED = { client: 'Larkspur Seed Co-op', before: 12, reason: 'an hour too much, agreed on the phone' };

/** Two rounds of reminders, as billing would have sent them, and a credit note. */
export async function loadDemoReminders(work: Work, today: LocalDate): Promise<void> {
  for (const before of SENT_BEFORE) await sendDue(workOn(work, plusDays(today, -before)));
  await creditLine(workOn(work, plusDays(today, -CREDITED.before)));
}

async function sendDue(work: Work): Promise<void> {
  const due = await readDue(work.tx, work.book, dateOf(work.now, work.book.house.zone));
  if (!due.length) return;
  const invoices = due.reduce((sum, d) => sum + d.invoices.length, 0);
  const sent = await sendReminders(work, { clientIds: null, invoices, totalMinor: due.reduce((sum, d) => sum + d.total.minor, 0) });
  if (isRefusal(sent)) throw new Error(sent.detail);
  await work
    .tx('reminder')
    .whereNull('mailed_at')
    .update({ mailed_at: at(plusSeconds(work.now, 30) as Instant) });
}

async function creditLine(work: Work): Promise<void> {
  const line = await work
    .tx('invoice_line as l')
    .join('invoice as i', 'i.id', 'l.invoice_id')
    .join('client as c', 'c.id', 'i.client_id')
    .where({ 'c.name': CREDITED.client, 'i.kind': 'invoice' })
    .whereRaw('l.net_minor > 0 and i.issued_at < ?', [at(work.now)])
    .orderBy([{ column: 'i.issued_on', order: 'desc' }, { column: 'l.net_minor' }, { column: 'l.position' }])
    .first('l.invoice_id', 'l.position', 'l.net_minor');
  if (!line) return;
  const lines = [{ position: line.position, net: (line.net_minor / 100).toFixed(2) }];
  const credited = await creditInvoice(work, line.invoice_id, { lines, undoes: false, reason: CREDITED.reason });
  if (isRefusal(credited)) throw new Error(credited.detail);
  const gone = at(plusSeconds(work.now, 40) as Instant);
  await work
    .tx('invoice_standing')
    .where({ invoice_id: credited.id })
    .update({ mailed_at: gone, ledger_at: gone, ledger_id: `D-${credited.number}` });
}
