import { type DueReminderWire, shownName } from '@core/billing';
import { dateOf, formatMoney, type Id, money, type Outcome, plural, refuse, wallMinuteOf } from '@core/ground';
import { byJob, whoColumns } from '../../app/actor';
import type { App } from '../../app/app';
import { at } from '../../app/database';
import { makeWork, transact, type Work } from '../../app/work';
import { readDue } from './due-reminders';

interface Seen {
  /** Null is all that are due. */
  readonly clientIds: readonly Id<'client'>[] | null;
  readonly invoices: number;
  readonly totalMinor: number;
}

/** Sends what is due, a mail each client; none where it is not what was seen. */
export async function sendReminders(work: Work, seen: Seen): Promise<Outcome<{ reminders: number }>> {
  // Two who send at once: the second finds nothing due.
  await work.tx('reminder_settings').where({ id: 1 }).forUpdate().first('id');
  const today = dateOf(work.now, work.book.house.zone);
  const due = (await readDue(work.tx, work.book, today)).filter((d) => !seen.clientIds || seen.clientIds.includes(d.clientId));
  const invoices = due.reduce((sum, d) => sum + d.invoices.length, 0);
  const minor = due.reduce((sum, d) => sum + d.total.minor, 0);
  if (invoices !== seen.invoices || minor !== seen.totalMinor) {
    const words = `${plural(invoices, 'invoice')} over ${formatMoney(money(minor, work.book.house.currency))}`;
    return refuse('changed-meanwhile', `These are not what you saw: now ${words}. Look again.`);
  }
  if (!due.length) return refuse('not-possible-now', 'No reminder is due.');
  for (const reminder of due) await keepReminder(work, reminder);
  return { reminders: due.length };
}

async function keepReminder(work: Work, { clientId, step, to, subject, text, invoices }: DueReminderWire): Promise<void> {
  const [kept] = await work
    .tx('reminder')
    .insert({ client_id: clientId, step, mail_to: to, subject, text, at: at(work.now), ...whoColumns(work.actor) })
    .returning('id');
  const { id } = kept!;
  const today = dateOf(work.now, work.book.house.zone);
  for (const invoice of invoices) {
    await work
      .tx('reminder_invoice')
      .insert({ reminder_id: id, invoice_id: invoice.id, step: invoice.step, on_date: today, left_minor: invoice.left.minor });
    await work.tell('invoice.reminded', invoice.id, { step: invoice.step, to });
  }
  await work.enqueue('mail-reminder', { reminderId: id }, { key: `mail-reminder:${id}` });
}

/** From nine in the morning on, on the provider's wall clock. */
const MORNING_MINUTE = 9 * 60;

/** Job: from the morning on, where the house wants it, what is due is sent without anybody pressing. */
export async function remindByThemselves(app: App): Promise<void> {
  const settings = (await app.knex('reminder_settings').first('by_themselves'))!;
  if (!settings.by_themselves || wallMinuteOf(app.clock.now(), app.house.house.zone) < MORNING_MINUTE) return;
  await transact(app, { now: app.clock.now(), actor: byJob('reminders') }, async (work) => {
    const due = await readDue(work.tx, work.book, dateOf(work.now, work.book.house.zone));
    if (!due.length) return {};
    const invoices = due.reduce((sum, d) => sum + d.invoices.length, 0);
    return sendReminders(work, { clientIds: null, invoices, totalMinor: due.reduce((sum, d) => sum + d.total.minor, 0) });
  });
}

/** The id of a reminder's mail, from which a report about it finds back. */
export function reminderMailId(reminderId: string, mailFrom: string): string {
  return `<reminder-${reminderId}@${mailFrom.split('@')[1]}>`;
}

/** Job: mails a reminder. Its Message-ID is fixed, so that one sent twice by a crash after sending is one mail to every reader. */
export async function mailReminder(app: App, { reminderId }: { readonly reminderId: Id<'reminder'> }): Promise<void> {
  const reminder = await app.knex('reminder').where({ id: reminderId }).first();
  if (!reminder || reminder.mailed_at !== null) return;
  const client = (await app.knex('client').where({ id: reminder.client_id }).first('division_id'))!;
  await app.mail.send({
    from: { name: shownName(app.house.house.seller), address: app.house.division(client.division_id).mailFrom },
    to: [reminder.mail_to],
    cc: [],
    subject: reminder.subject,
    text: reminder.text,
    messageId: reminderMailId(reminderId, app.house.house.mailFrom),
    references: [],
    headers: { 'auto-submitted': 'auto-generated' },
    attachments: [],
  });
  await app.knex.transaction(async (tx) => {
    const now = app.clock.now();
    const [first] = await tx('reminder')
      .where({ id: reminderId })
      .whereNull('mailed_at')
      .update({ mailed_at: at(now) })
      .returning('id');
    const work = makeWork({ tx, now, actor: byJob('delivery'), book: app.house });
    if (first) await work.emit('invoice', null);
  });
}
