import type { ParsedMail } from 'mailparser';
import {
  findTicketToken,
  isPlainThanks,
  mailKindOf,
  ownWords,
  plainSubject,
  threadMail,
  type ThreadCandidate,
  type Threading,
} from '@core/messages';
import type { App } from '../app/app';
import { at } from '../app/database';
import { transact, type Actor, type Work } from '../app/work';
import { ringWhereNeeded } from '../escalation/ring';
import { addresses, cleanHtml, clip, headOf, parse, references, sameness, textOf, withoutNul } from './read-mail';
import { openTicket } from '../tickets/open-ticket';
import { isClosedForGood, takeClientMessage } from '../tickets/reply-owed';

export interface Envelope {
  readonly from: string;
  readonly to: readonly string[];
}

export interface Received {
  readonly did: 'opened' | 'joined' | 'seen before' | 'kept aside';
  readonly ticketId?: string;
  readonly number?: number;
}

const MAIL: Actor = { personId: null, name: 'mail', role: null, via: 'mail' };

/**
 * Takes one mail: it becomes a ticket, joins one, is kept aside, or was seen before. Returns only after
 * commit, so the sender may be told that it is safe. Attachments are on disk before the commit.
 * @throws where the database or the disk is away; the sender tries again later
 */
export async function receiveMail(app: App, raw: Buffer, envelope: Envelope): Promise<Received> {
  const mail = await parse(raw);
  const blobs = await Promise.all(
    mail.attachments.map(async (a) => ({
      name: a.filename ?? 'attachment',
      mediaType: a.contentType || 'application/octet-stream',
      bytes: a.content.length,
      contentId: a.cid ?? null,
      blob: await app.blobs.put(a.content),
    })),
  );
  const outcome = await transact<Received>(app.knex, app.clock.now(), MAIL, async (work) => {
    const kind = mailKindOf(headOf(mail, envelope));
    const sender = await findSender(work, mail, envelope);
    const thirdParty = kind === 'person' ? await thirdPartyOf(work, sender) : null;
    const thanks = kind === 'person' && !thirdParty && isPlainThanks(ownWords(mail.text ?? textOf(mail.html)));
    const threading = threadMail({
      kind,
      thanks,
      byReference: await byReference(app, work, mail, sender),
      byToken: await byToken(app, work, mail, sender),
    });
    const [source] = await work
      .tx('mail_source')
      .insert({
        sha256: sameness(raw, mail, sender.email),
        message_id: mail.messageId ?? null,
        received_at: at(work.now),
        envelope_from: envelope.from,
        envelope_to: envelope.to,
        raw,
        decision: JSON.stringify({ kind, ...threading }),
      })
      .onConflict('sha256')
      .ignore()
      .returning('id');
    if (!source) return { did: 'seen before' };
    if (threading.do === 'keep aside') return { did: 'kept aside' };
    return file(app, work, { mail, sender, threading, sourceId: source.id, automatic: kind !== 'person', thanks, thirdParty, blobs });
  });
  if ('refused' in outcome) throw new Error(outcome.detail);
  return outcome;
}

interface Sender {
  readonly email: string;
  readonly name: string;
  readonly contactId: string | null;
  readonly clientId: string | null;
}

interface Filing {
  readonly mail: ParsedMail;
  readonly sender: Sender;
  readonly threading: Exclude<Threading, { do: 'keep aside' }>;
  readonly sourceId: string;
  readonly automatic: boolean;
  readonly thanks: boolean;
  /** The name of the supplier or other who wrote and is no client. */
  readonly thirdParty: string | null;
  readonly blobs: readonly { name: string; mediaType: string; bytes: number; contentId: string | null; blob: string }[];
}

async function file(
  app: App,
  work: Work,
  { mail, sender, threading, sourceId, automatic, thanks, thirdParty, blobs }: Filing,
): Promise<Received> {
  const joins = threading.do === 'join';
  const ticketId = joins
    ? threading.ticketId
    : (
        await openTicket(work, app.house, {
          subject: clip(plainSubject(mail.subject ?? ''), 200),
          clientId: sender.clientId,
          contactId: sender.contactId,
          senderEmail: sender.email,
          senderName: sender.name,
          threadingWhy: threading.why,
          linkedTicketId: threading.linkedTicketId ?? null,
          byCall: false,
        })
      ).id;
  const [message] = await work
    .tx('message')
    .insert({
      ticket_id: ticketId,
      at: at(work.now),
      direction: 'in',
      visibility: 'public',
      author_contact_id: sender.contactId,
      author_name: clip(sender.name, 200),
      author_email: sender.email,
      to_addresses: addresses(mail.to),
      cc_addresses: addresses(mail.cc),
      subject: clip(mail.subject ?? '', 400),
      text: withoutNul(mail.text ?? textOf(mail.html)),
      html: mail.html ? cleanHtml(mail.html) : null,
      message_id: mail.messageId ?? null,
      in_reply_to: mail.inReplyTo ?? null,
      reference_ids: references(mail),
      automatic,
      thanks: thanks && joins,
      third_party: thirdParty,
      source_id: sourceId,
    })
    .returning('id');
  if (blobs.length)
    await work.tx('attachment').insert(
      blobs.map((b) => ({
        message_id: message.id,
        name: clip(withoutNul(b.name), 200),
        media_type: clip(b.mediaType, 100),
        bytes: b.bytes,
        content_id: b.contentId,
        blob: b.blob,
      })),
    );
  if (thirdParty) await oweLook(work, ticketId, thirdParty);
  else if (threading.do === 'join' && !threading.quiet) await takeClientMessage(work, app.house, { ticketId, author: sender.name, thanks });
  if (!thirdParty && !automatic && !thanks) await ringWhereNeeded(work, app.house, ticketId);
  const ticket = await work.tx('ticket').where({ id: ticketId }).first('number');
  await work.tell({ subject: 'ticket', id: ticketId, what: joins ? `${sender.name} wrote` : `opened by a mail of ${sender.name}` });
  return { did: joins ? 'joined' : 'opened', ticketId, number: ticket.number };
}

/** Suppliers and others who are no clients, by their address or domain. */
async function thirdPartyOf(work: Work, sender: Sender): Promise<string | null> {
  if (sender.contactId) return null;
  const row = await work
    .tx('third_party')
    .whereIn('address', [sender.email, sender.email.split('@')[1] ?? ''])
    .first('name');
  return row?.name ?? null;
}

/** A third party's message owes a look inside, and no reply to the client. */
async function oweLook(work: Work, ticketId: string, name: string): Promise<void> {
  await work
    .tx('ticket')
    .where({ id: ticketId })
    .update({ look_since: work.tx.raw('coalesce(look_since, ?)', [at(work.now)]), look_at: name, changed_at: at(work.now) });
}

async function findSender(work: Work, mail: ParsedMail, envelope: Envelope): Promise<Sender> {
  const from = mail.from?.value[0];
  const email = (from?.address || envelope.from || 'unknown@unknown.invalid').toLowerCase();
  const contact = await work.tx('contact').whereRaw('lower(email) = ?', [email]).whereNull('archived_at').first('id', 'client_id', 'name');
  return {
    email,
    name: contact?.name ?? (withoutNul(from?.name ?? '') || email),
    contactId: contact?.id ?? null,
    clientId: contact?.client_id ?? null,
  };
}

async function byReference(app: App, work: Work, mail: ParsedMail, sender: Sender): Promise<ThreadCandidate | undefined> {
  const ids = references(mail);
  if (!ids.length) return undefined;
  const rows = await work.tx('message').whereIn('message_id', ids).select('message_id', 'ticket_id');
  const newest = ids.map((id) => rows.find((row) => row.message_id === id)).find((row) => row);
  return newest ? candidate(app, work, newest.ticket_id, sender) : undefined;
}

async function byToken(app: App, work: Work, mail: ParsedMail, sender: Sender): Promise<ThreadCandidate | undefined> {
  const token = findTicketToken(mail.subject ?? '');
  if (!token) return undefined;
  const ticket = await work.tx('ticket').where({ number: token.number, secret: token.secret }).first('id', 'merged_into_id');
  return ticket ? candidate(app, work, ticket.merged_into_id ?? ticket.id, sender) : undefined;
}

async function candidate(app: App, work: Work, ticketId: string, sender: Sender): Promise<ThreadCandidate> {
  const ticket = await work.tx('ticket').where({ id: ticketId }).first('client_id', 'sender_email', 'status', 'closed_at');
  const wrote = await work.tx('message').where({ ticket_id: ticketId, author_email: sender.email }).first('id');
  const copied = await work
    .tx('message')
    .where({ ticket_id: ticketId })
    .whereRaw('? = any(to_addresses || cc_addresses)', [sender.email])
    .first('id');
  return {
    ticketId,
    closedForGood: isClosedForGood(app.house, ticket, work.now),
    senderBelongs:
      Boolean(wrote || copied) ||
      ticket.sender_email === sender.email ||
      (sender.clientId !== null && sender.clientId === ticket.client_id),
  };
}
