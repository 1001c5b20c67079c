import { isRefusal } from '@core/ground';
import type { Status } from '@core/desk';
import type { App } from '../../app/app';
import { at } from '../../app/database';
import { byJob, byPerson } from '../../app/actor';
import { makeWork } from '../../app/work';
import { setStatus } from '../tickets/move-ticket';
import { endOwed } from '../tickets/reply-owed';
import { addFacts, storeClocks } from '../tickets/ticket-clock-store';
import { countUpdate } from '../umbrellas/count-update';

/**
 * Job: lets a reply leave. The row is locked while the mail goes out, so that it cannot be taken back in
 * between; a second run finds it gone and does nothing. Its Message-ID is fixed, so that a mail sent twice by
 * a crash after sending is one mail to every reader.
 */
export async function sendMessage(app: App, payload: { messageId: string; then: Status | null }): Promise<void> {
  try {
    await app.knex.transaction(async (tx) => {
      const message = await tx('message as m').where('m.id', payload.messageId).forUpdate().first();
      if (!message || message.left_at !== null || message.taken_back_at !== null) return;
      const files = await tx('attachment').where({ message_id: message.id }).orderBy('name').select('name', 'media_type', 'blob');
      await app.mail.send({
        from: { name: app.house.house.provider, address: app.house.house.mailFrom },
        to: message.to_addresses,
        cc: message.cc_addresses,
        subject: message.subject,
        text: message.text,
        messageId: message.message_id,
        inReplyTo: message.in_reply_to ?? undefined,
        references: message.reference_ids,
        headers: message.automatic ? { 'Auto-Submitted': 'auto-replied' } : {},
        attachments: await Promise.all(
          files.map(async (f) => ({ filename: f.name, contentType: f.media_type, content: await app.blobs.get(f.blob) })),
        ),
      });
      const now = app.clock.now();
      const { author_person_id: id, author_name: name } = message;
      const actor = id ? byPerson({ id, name, role: null }, 'job') : byJob(name);
      const work = makeWork({ tx, now, actor, book: app.house });
      await tx('message')
        .where({ id: message.id })
        .update({ left_at: at(now), at: at(now), trouble: null });
      // An acknowledgement is no contact by a person.
      if (!message.automatic) {
        await addFacts(work, message.ticket_id, [{ at: now, is: 'public-contact' }]);
        await endOwed(work, message.ticket_id);
        if (message.update_id) await countUpdate(work, app.house, message.update_id);
      }
      if (payload.then) {
        const moved = await setStatus(work, app.house, {
          ticketId: message.ticket_id,
          version: undefined,
          to: payload.then,
          holdReason: payload.then === 'on hold' ? 'client' : null,
        });
        if (isRefusal(moved)) await work.tell('ticket.not-moved-with-reply', message.ticket_id, { to: payload.then, why: moved.detail });
      }
      await storeClocks(work, app.house, message.ticket_id);
      await work.tell('ticket.message-sent', message.ticket_id, { to: message.to_addresses });
    });
  } catch (fault) {
    await app
      .knex('message')
      .where({ id: payload.messageId })
      .whereNull('left_at')
      .update({ trouble: String(fault instanceof Error ? fault.message : fault).slice(0, 900) })
      .catch(() => undefined);
    throw fault;
  }
}
