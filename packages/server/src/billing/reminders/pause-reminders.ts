import type { NewPauseForm } from '@core/billing';
import { dateOf, type Id, type LocalDate, type Outcome, refuse } from '@core/ground';
import { whoColumns } from '../../app/actor';
import { at } from '../../app/database';
import type { Work } from '../../app/work';

/** Sends nothing to a client, or of one invoice, until a day or until somebody ends it. */
export async function pauseReminders(
  work: Work,
  { clientId, invoiceId, until, reason }: NewPauseForm,
): Promise<Outcome<{ id: Id<'reminder_pause'> }>> {
  const client = await work.tx('client').where({ id: clientId }).first('id');
  if (!client) return refuse('invalid', 'There is no such client.', { clientId: 'choose a client' });
  const invoice = invoiceId && (await work.tx('invoice').where({ id: invoiceId, client_id: clientId, kind: 'invoice' }).first('id'));
  if (invoiceId && !invoice) return refuse('invalid', 'That is no invoice of this client.', { invoiceId: 'an invoice of this client' });
  const today = dateOf(work.now, work.book.house.zone);
  if (until && until < today) return refuse('invalid', `${until} is over.`, { until: 'today or a day to come' });
  const [pause] = await work
    .tx('reminder_pause')
    .insert({
      client_id: clientId,
      invoice_id: invoiceId,
      until: until as LocalDate | null,
      reason,
      at: at(work.now),
      ...whoColumns(work.actor),
    })
    .returning('id');
  if (invoiceId) await work.tell('invoice.reminders-paused', invoiceId, { until: until as LocalDate | null, reason });
  else await work.tell('client.reminders-paused', clientId, { until: until as LocalDate | null, reason });
  return { id: pause!.id };
}

export async function endPause(work: Work, pauseId: Id<'reminder_pause'>): Promise<Outcome<Record<never, never>>> {
  const [pause] = await work
    .tx('reminder_pause')
    .where({ id: pauseId })
    .whereNull('ended_at')
    .update({ ended_at: at(work.now) })
    .returning(['client_id', 'invoice_id']);
  if (!pause) return refuse('not-possible-now', 'There is no such pause, or it is over.');
  if (pause.invoice_id) await work.tell('invoice.reminders-resumed', pause.invoice_id, {});
  else await work.tell('client.reminders-resumed', pause.client_id, {});
  return {};
}
