import { type Id, isRefusal } from '@core/ground';
import type { Status } from '@core/desk';
import type { Knex } from 'knex';
import type { App } from '../../app/app';
import { at } from '../../app/database';
import type { Row } from '../../app/rows';
import { byJob, byPerson } from '../../app/actor';
import { makeWork } from '../../app/work';
import { setStatus } from '../tickets/move-ticket';
import { endOwed } from '../tickets/reply-owed';
import { addFacts, storeClocks } from '../clocks/ticket-clock-store';

/** Longer than a mail server is waited for, so that what still leaves after this was left behind by a process that is gone. */
const STALE_SECONDS = 30;

/**
 * Job: lets a reply leave. It is marked before a mail server has it, so that it cannot be taken back in between and no row
 * is held while that takes its time; a second run finds it gone and does nothing. Its Message-ID is fixed, so that a mail
 * sent twice by a crash after sending is one mail to every reader.
 */
export async function sendMessage(app: App, { messageId, then }: { messageId: Id<'message'>; then: Status | null }): Promise<void> {
  const message = await markLeaving(app, messageId);
  if (!message) return;
  try {
    await mail(app, message);
  } catch (fault) {
    await app
      .knex('message')
      .where({ id: messageId })
      .update({ leaving_since: null, trouble: String(fault instanceof Error ? fault.message : fault).slice(0, 900) })
      .catch(() => undefined);
    throw fault;
  }
  await app.knex.transaction((tx) => markLeft(app, tx, { message, then }));
}

/** @throws Error where another has it in hand; the job is tried again */
async function markLeaving(app: App, messageId: Id<'message'>): Promise<Row<'message'> | undefined> {
  const waits = app.knex('message').where({ id: messageId }).whereNull('left_at').whereNull('taken_back_at');
  const [message]: Row<'message'>[] = await waits
    .clone()
    .whereRaw('(leaving_since is null or leaving_since < now() - make_interval(secs => ?))', [STALE_SECONDS])
    .update({ leaving_since: app.knex.fn.now() })
    .returning('*');
  if (!message && (await waits.clone().first('id'))) throw new Error('the reply is being sent already');
  return message;
}

async function mail(app: App, message: Row<'message'>): Promise<void> {
  const files = await app.knex('attachment').where({ message_id: message.id }).orderBy('name').select('name', 'media_type', 'blob');
  const { division_id } = (await app.knex('ticket').where({ id: message.ticket_id }).first('division_id'))!;
  const { brand, mailFrom } = app.house.division(division_id);
  await app.mail.send({
    from: { name: brand, address: mailFrom },
    to: message.to_addresses,
    cc: message.cc_addresses,
    subject: message.subject ?? '',
    text: message.text,
    messageId: message.message_id!,
    inReplyTo: message.in_reply_to ?? undefined,
    references: message.reference_ids,
    headers: message.automatic ? { 'Auto-Submitted': 'auto-replied' } : {},
    attachments: await Promise.all(
      files.map(async (f) => ({ filename: f.name, contentType: f.media_type, content: await app.blobs.get(f.blob) })),
    ),
  });
}

async function markLeft(
  app: App,
  tx: Knex.Transaction,
  { message, then }: { readonly message: Row<'message'>; readonly then: Status | null },
): Promise<void> {
  const now = app.clock.now();
  const { author_person_id: id, author_name: name, ticket_id: ticketId } = message;
  const actor = id ? byPerson({ id, name, role: null }, 'job') : byJob(name);
  const work = makeWork({ tx, now, actor, book: app.house });
  const [left] = await tx('message')
    .where({ id: message.id })
    .whereNull('left_at')
    .update({ left_at: at(now), at: at(now), trouble: null })
    .returning('id');
  if (!left) return;
  // An acknowledgement is no contact by a person.
  if (!message.automatic) {
    await addFacts(work, ticketId, [{ at: now, is: 'public-contact' }]);
    await endOwed(work, ticketId);
  }
  if (then) {
    const holdReason = then === 'on hold' ? 'client' : null;
    const moved = await setStatus(work, app.house, { ticketId: ticketId, version: undefined, to: then, holdReason });
    if (isRefusal(moved)) await work.tell('ticket.not-moved-with-reply', ticketId, { to: then, why: moved.detail });
  }
  await storeClocks(work, app.house, { ticketId });
  await work.tell('ticket.message-sent', ticketId, { to: message.to_addresses, updateId: message.update_id });
}
