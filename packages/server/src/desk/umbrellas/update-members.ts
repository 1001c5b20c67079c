import { randomUUID } from 'node:crypto';
import { formatInstant, type Id, isRefusal, type Outcome, plusSeconds, refuse } from '@core/ground';
import type { UpdateForm } from '@core/desk';
import type { App } from '../../app/app';
import { at } from '../../app/database';
import type { Work } from '../../app/work';
import { sendInThread, takeBackReply } from '../messages/write-messages';
import { statusLink } from '../tickets/status-links';
import { readUpdateMails } from './update-mails';

/**
 * Writes to the contacts of members, each in their own thread. Each mail is a public contact of its own when
 * it leaves. What would name another client, or has a hole, does not leave at all.
 */
export async function updateMembers(
  app: App,
  work: Work,
  { umbrellaId, form }: { readonly umbrellaId: Id<'ticket'>; readonly form: UpdateForm },
): Promise<Outcome<{ id: Id<'member_update'>; leavesAt: string; mails: number }>> {
  const read = await readUpdateMails(work.tx, app.house, { umbrellaId, form, author: { name: work.actor.name } });
  if (isRefusal(read)) return read;
  const wrong = read.mails.find((m) => m.trouble.length);
  if (wrong)
    return refuse('invalid', `The mail to ${wrong.contact} cannot leave: ${wrong.trouble.join('; ')}.`, { text: wrong.trouble.join('; ') });
  if (!read.mails.length) return refuse('not-possible-now', 'None of these members has an address to write to.');
  const id = randomUUID();
  await work.tx('member_update').insert({
    id,
    umbrella_id: umbrellaId,
    at: at(work.now),
    person_id: work.actor.personId,
    text: form.text,
    asks: form.asks,
  });
  for (const mail of read.mails) {
    const text = form.asks ? `${mail.text}\n\n${question(await statusLink(app, work, mail.ticketId), id)}` : mail.text;
    await sendInThread(app, work, { ticketId: mail.ticketId, text, updateId: id });
  }
  await work.tell('ticket.members-written-to', umbrellaId, { mails: read.mails.length, asks: form.asks, text: form.text });
  return { id, leavesAt: formatInstant(plusSeconds(work.now, app.config.REPLY_WAIT_SECONDS)), mails: read.mails.length };
}

function question(link: string, updateId: Id<'member_update'>): string {
  return `Is it back for you? One press answers:\n\nYes, it works again:\n${link}/${updateId}/yes\n\nNo, not yet:\n${link}/${updateId}/no`;
}

/** Takes back every mail of an update that has not left yet. */
export async function takeBackUpdate(
  work: Work,
  updateId: Id<'member_update'>,
): Promise<Outcome<{ text: string; takenBack: number; left: number }>> {
  const update = await work.tx('member_update').where({ id: updateId }).first('text', 'umbrella_id');
  if (!update) return refuse('not-found', 'There is no such update.');
  const mails = await work.tx('message').where({ update_id: updateId }).orderBy('seq').select('id');
  let takenBack = 0;
  for (const mail of mails) if (!isRefusal(await takeBackReply(work, mail.id))) takenBack++;
  if (!takenBack) return refuse('not-possible-now', 'All of its mails have left already.');
  await work.tell('ticket.members-mail-taken-back', update.umbrella_id, { takenBack, mails: mails.length });
  return { text: update.text, takenBack, left: mails.length - takenBack };
}
