import { byContact } from '../../app/actor';
import { type AwayNotice, type Look, plainSubject, type Threading } from '@core/desk';
import { clipText, type Id } from '@core/ground';
import type { App } from '../../app/app';
import { at } from '../../app/database';
import { type Work, workAs } from '../../app/work';
import { ringWhereNeeded } from '../escalation/ring';
import { openTicket } from '../tickets/open-ticket';
import { takeClientMessage } from '../tickets/reply-owed';
import type { Sender } from './find-thread';
import type { MailFile, ReadMail } from './read-mail';
import type { Received } from './receive-mail';

export type KeptFile = Omit<MailFile, 'content'> & { readonly bytes: number; readonly blob: string };

export interface Filing {
  readonly mail: ReadMail;
  readonly sender: Sender;
  readonly threading: Exclude<Threading, { do: 'keep aside' }>;
  readonly sourceId: string;
  readonly automatic: boolean;
  readonly thanks: boolean;
  /** The name of the supplier or other who wrote and is no client. */
  readonly thirdParty: string | null;
  readonly files: readonly KeptFile[];
  /** What it says of itself. */
  readonly notice: ({ readonly is: 'away' } & AwayNotice) | null;
}

/** Puts a mail into the ticket it joins, or opens one with it. */
export async function fileMail(app: App, work: Work, filing: Filing): Promise<Received> {
  const { mail, sender, threading, automatic, thanks, thirdParty } = filing;
  const joins = threading.do === 'join';
  const { id: ticketId, number } = joins
    ? (await work.tx('ticket').where({ id: threading.ticketId }).first('id', 'number'))!
    : await open(app, work, filing);
  const [message] = await work
    .tx('message')
    .insert({
      ticket_id: ticketId,
      at: at(work.now),
      direction: 'in',
      visibility: 'public',
      author_contact_id: sender.contactId,
      author_name: clipText(sender.name, 200),
      author_email: sender.email,
      to_addresses: mail.to,
      cc_addresses: mail.cc,
      subject: mail.subject,
      text: mail.text,
      html: mail.html,
      message_id: mail.messageId,
      in_reply_to: mail.cites[0] ?? null,
      reference_ids: mail.cites,
      automatic,
      thanks: thanks && joins,
      third_party: thirdParty,
      source_id: filing.sourceId,
      notice: filing.notice ? JSON.stringify(filing.notice) : null,
      left_out: mail.leftOut,
    })
    .returning('id');
  if (filing.files.length)
    await work.tx('attachment').insert(
      filing.files.map((f) => ({
        message_id: message!.id,
        name: f.name,
        media_type: f.mediaType,
        bytes: f.bytes,
        content_id: f.contentId,
        blob: f.blob,
      })),
    );
  // They wrote from it, so it works again.
  if (sender.unreached) await work.tx('contact').where({ id: sender.contactId! }).update({ mail_trouble: null, mail_trouble_at: null });
  if (thirdParty) await oweLook(work, { ticketId, is: 'third party', whom: thirdParty });
  else if (joins && !threading.quiet)
    await takeClientMessage(work, app.house, { ticketId, author: sender.name, contactId: sender.contactId, thanks });
  if (!thirdParty && !automatic && !thanks)
    await ringWhereNeeded(work, app.house, { ticketId, known: joins ? undefined : { priority: sender.priority, messages: 1 } });
  const writer = workAs(work, byContact({ id: sender.contactId, name: clipText(sender.name, 200) }, 'mail'));
  if (joins) await writer.tell('ticket.message-received', ticketId, {});
  else await writer.tell('ticket.opened', ticketId, { how: 'mail' });
  return { did: joins ? 'joined' : 'opened', ticketId, number };
}

function open(app: App, work: Work, { mail, sender, threading }: Filing): Promise<{ id: Id<'ticket'>; number: number }> {
  return openTicket(work, app.house, {
    subject: clipText(plainSubject(mail.subject), 200),
    clientId: sender.clientId,
    contactId: sender.contactId,
    senderEmail: sender.email,
    senderName: sender.name,
    threadingWhy: threading.why,
    linkedTicketId: threading.do === 'open' ? (threading.linkedTicketId ?? null) : null,
    byCall: false,
    owner: sender.owner,
  });
}

/** A look inside is owed, and no reply to the client. @param whom who wrote and is no client, or the address that mail did not reach */
export async function oweLook(
  work: Work,
  { ticketId, is, whom }: { readonly ticketId: Id<'ticket'>; readonly is: Look; readonly whom: string },
): Promise<void> {
  await work
    .tx('ticket')
    .where({ id: ticketId })
    .update({
      look_since: work.tx.raw('coalesce(look_since, ?)', [at(work.now)]),
      look_is: is,
      look_at: clipText(whom, 200),
      changed_at: at(work.now),
    });
}
