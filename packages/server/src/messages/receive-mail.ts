import { createHash } from 'node:crypto';
import { simpleParser, type AddressObject, type ParsedMail } from 'mailparser';
import sanitizeHtml from 'sanitize-html';
import {
  findTicketToken,
  isPlainThanks,
  mailKindOf,
  ownWords,
  plainSubject,
  threadMail,
  type MailHead,
  type ThreadCandidate,
  type Threading,
} from '@core/messages';
import type { App } from '../app/app';
import { at } from '../app/database';
import { transact, type Actor, type Work } from '../app/work';
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
    const thanks = kind === 'person' && isPlainThanks(ownWords(mail.text ?? textOf(mail.html)));
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
    return file(app, work, { mail, sender, threading, sourceId: source.id, automatic: kind !== 'person', thanks, blobs });
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
  readonly blobs: readonly { name: string; mediaType: string; bytes: number; contentId: string | null; blob: string }[];
}

async function file(app: App, work: Work, { mail, sender, threading, sourceId, automatic, thanks, blobs }: Filing): Promise<Received> {
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
  if (joins && threading.do === 'join' && !threading.quiet)
    await takeClientMessage(work, app.house, { ticketId, author: sender.name, thanks });
  const ticket = await work.tx('ticket').where({ id: ticketId }).first('number');
  await work.tell({ subject: 'ticket', id: ticketId, what: joins ? `${sender.name} wrote` : `opened by a mail of ${sender.name}` });
  return { did: joins ? 'joined' : 'opened', ticketId, number: ticket.number };
}

/** Broken mail is still mail: what cannot be parsed is kept whole as text. */
async function parse(raw: Buffer): Promise<ParsedMail> {
  try {
    return await simpleParser(raw, { skipImageLinks: true, skipTextToHtml: true });
  } catch {
    return { attachments: [], headers: new Map(), headerLines: [], html: false, text: raw.toString('latin1') } as unknown as ParsedMail;
  }
}

function headOf(mail: ParsedMail, envelope: Envelope): MailHead {
  const headers: Record<string, string> = {};
  for (const { key, line } of mail.headerLines ?? []) headers[key] = line.slice(line.indexOf(':') + 1).trim();
  return { headers, returnPath: envelope.from };
}

/** Delivered twice, a mail may gain trace lines: what makes it the same is its id, sender and text. */
function sameness(raw: Buffer, mail: ParsedMail, sender: string): Buffer {
  const hash = createHash('sha256');
  return (
    mail.messageId
      ? hash.update(JSON.stringify([mail.messageId, sender, mail.subject ?? '', mail.text ?? '', mail.html || '']))
      : hash.update(raw)
  ).digest();
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
  const ticket = await work.tx('ticket').where({ number: token.number, secret: token.secret }).first('id');
  return ticket ? candidate(app, work, ticket.id, sender) : undefined;
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

/** The ids a mail refers to, the nearest first. */
function references(mail: ParsedMail): string[] {
  const refs = typeof mail.references === 'string' ? [mail.references] : (mail.references ?? []);
  return [
    ...new Set(
      [mail.inReplyTo, ...[...refs].reverse()].filter((id): id is string => Boolean(id)).flatMap((id) => id.match(/<[^<>]+>/g) ?? [id]),
    ),
  ].slice(0, 50);
}

function addresses(of: AddressObject | AddressObject[] | undefined): string[] {
  return (Array.isArray(of) ? of : of ? [of] : [])
    .flatMap((o) => o.value.map((v) => (v.address ?? '').toLowerCase()))
    .filter(Boolean)
    .slice(0, 100);
}

/** Nothing runs and nothing is fetched from elsewhere: remote pictures are cut. */
function cleanHtml(html: string): string {
  return withoutNul(
    sanitizeHtml(html, {
      allowedTags: [...sanitizeHtml.defaults.allowedTags, 'img', 'del', 'ins'],
      allowedAttributes: {
        a: ['href', 'title'],
        img: ['alt', 'width', 'height', 'src'],
        td: ['colspan', 'rowspan'],
        th: ['colspan', 'rowspan'],
      },
      allowedSchemes: ['http', 'https', 'mailto', 'tel'],
      allowedSchemesByTag: { img: ['cid'] },
      transformTags: { a: sanitizeHtml.simpleTransform('a', { rel: 'noopener noreferrer', target: '_blank' }) },
    }),
  );
}

function textOf(html: string | false | undefined): string {
  return html
    ? sanitizeHtml(html, { allowedTags: [], allowedAttributes: {} })
        .replace(/\n{3,}/g, '\n\n')
        .trim()
    : '';
}

/** PostgreSQL holds no NUL in text. */
function withoutNul(text: string): string {
  return text.replaceAll('\0', '');
}

function clip(text: string, most: number): string {
  return [...withoutNul(text)].slice(0, most).join('');
}
