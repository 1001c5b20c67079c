import { type Id, isId } from '@core/ground';
import { at } from '../../app/database';
import type { MailReport } from '../../app/handled-reports';
import type { Work } from '../../app/work';
import { reminderMailId } from './send-reminders';

/**
 * Takes a delivery report to the reminder whose mail it is about: where it did not arrive, that stands with its invoices.
 * @returns the address that it was mailed to, or undefined where the report is about none
 */
export async function takeReminderReport(
  work: Work,
  { mailFrom, ids, deliveries }: MailReport,
): Promise<{ readonly sentTo: string } | undefined> {
  const named = ids.map((id) => /^<reminder-([^@]+)@/.exec(id)?.[1] ?? '').filter(isId);
  const reminderId = named.find((each) => ids.includes(reminderMailId(each, mailFrom)));
  const reminder = reminderId && (await work.tx('reminder').where({ id: reminderId }).forUpdate().first('id', 'mail_to'));
  if (!reminder) return undefined;
  const failed = deliveries.filter((d) => d.became === 'failed');
  if (!failed.length) return { sentTo: reminder.mail_to };
  await work
    .tx('reminder')
    .where({ id: reminder.id })
    .update({ undelivered_at: at(work.now) });
  const invoices: Id<'invoice'>[] = await work
    .tx('reminder_invoice')
    .where({ reminder_id: reminder.id })
    .orderBy('invoice_id')
    .pluck('invoice_id');
  for (const invoiceId of invoices)
    for (const { address, why } of failed) await work.tell('invoice.reminder-not-delivered', invoiceId, { address, why });
  return { sentTo: reminder.mail_to };
}
