import { isOfPerson, isPlainThanks, mailKindOf, ownWords, readAwayNotice, readDeliveryReport, threadMail, type MailKind } from '@core/desk';
import { dateOf, type Id } from '@core/ground';
import type { App } from '../../app/app';
import { at } from '../../app/database';
import { databaseIsAway } from '../../app/database-away';
import { FilesAway } from '../../app/blob-store';
import { bySystem } from '../../app/actor';
import { transact, type Work } from '../../app/work';
import { applyMailRule, chooseMailRule } from './apply-mail-rule';
import { fileMail, type KeptFile } from './file-mail';
import { gatherTalk } from './gather-talk';
import { findSender, senderOf } from './find-sender';
import { findThread, talkIds, type Sender } from './find-thread';
import { keepFiles } from './keep-files';
import { keepAside } from './keep-aside';
import type { ReadMail } from './read-mail';
import { takeReport } from './take-report';

export interface Envelope {
  readonly from: string;
  readonly to: readonly string[];
}

export interface Received {
  readonly did: 'opened' | 'joined' | 'seen before' | 'kept aside';
  readonly ticketId?: Id<'ticket'>;
  readonly number?: number;
}

const MAIL = bySystem('mail', 'mail');

/**
 * Takes one mail: it becomes a ticket, joins one, is kept aside, or was seen before. Returns only after
 * commit, so the sender may be told that it is safe. Attachments are on disk before the commit.
 * @throws where the database or the disk is away; the sender tries again later. Whatever else goes wrong with a mail,
 * it is kept aside with its raw source: it would go wrong again for ever.
 */
export async function receiveMail(app: App, raw: Buffer, envelope: Envelope): Promise<Received> {
  try {
    return await take(app, raw, envelope);
  } catch (fault) {
    if (databaseIsAway(fault) || fault instanceof FilesAway) throw fault;
    app.log.error({ fault }, 'a mail could not be filed; it is kept aside');
    return keepUnread(app, raw, envelope);
  }
}

async function take(app: App, raw: Buffer, envelope: Envelope): Promise<Received> {
  const mail = await app.mails.read(raw);
  const files = await keepFiles(app, mail.files);
  const kind = kindOf(app, mail, envelope);
  return done(
    await transact<Received>(app, { now: app.clock.now(), actor: MAIL }, async (work) => {
      const sourceId = await keepSource(work, { mail, raw, envelope, kind });
      if (!sourceId) return { did: 'seen before' };
      return file(app, work, { mail, kind, sourceId, envelope, files });
    }),
  );
}

interface Taken {
  readonly mail: ReadMail;
  readonly kind: MailKind;
  readonly sourceId: string;
  readonly envelope: Envelope;
  readonly files: readonly KeptFile[];
}

async function file(app: App, work: Work, { mail, kind, sourceId, envelope, files }: Taken): Promise<Received> {
  const sender = await findSender(work, app.house, { mail, envelope });
  const aside = (reason: string, ruleId: string | null = null) =>
    keepAside(work, { sourceId, sender: sender.email, subject: mail.subject, reason, ruleId });
  if (kind === 'report' && mail.report) {
    const report = readDeliveryReport(mail.report.status, mail.report.original);
    return (await takeReport(app, work, { mail, report, sourceId })) ?? aside('a delivery report that names no mail of ours');
  }
  const person = isOfPerson(kind);
  const thirdParty = person ? await thirdPartyOf(work, sender) : null;
  const thanks = person && !thirdParty && isPlainThanks(ownWords(mail.text));
  const threading = threadMail({ kind, thanks, ...(await findThread(app, work, { mail, sender })) });
  if (threading.do === 'keep aside') return aside(threading.why[0]!.rule);
  const rule = threading.do === 'open' ? chooseMailRule(app.house, mail, sender) : undefined;
  if (rule?.does === 'aside') return aside(rule.reason, rule.id);
  const away = kind === 'automatic' ? readAwayNotice(mail.subject, mail.text, dateOf(work.now, app.house.house.zone)) : undefined;
  const filed = await fileMail(app, work, {
    mail,
    sender: rule?.clientId && !sender.clientId ? { ...sender, clientId: rule.clientId } : sender,
    threading,
    sourceId,
    automatic: !person,
    thanks,
    thirdParty,
    files,
    notice: away ? { is: 'away', ...away } : null,
  });
  if (rule) await applyMailRule(app, work, { ticketId: filed.ticketId!, rule });
  if (threading.do === 'join') await gatherTalk(app, work, { ticketId: filed.ticketId!, gathered: threading.gathers });
  return filed;
}

function kindOf(app: App, mail: ReadMail, envelope: Envelope): MailKind {
  return mailKindOf({ headers: mail.headers, returnPath: envelope.from, ownSignature: app.mail.isOwn(mail.messageId, mail.headers) });
}

/**
 * Keeps the raw mail. Two mails of one talk that arrive at the same instant are filed one after the other: each locks
 * the ids of its talk first, in one order everywhere, so that no two wait for each other.
 * @returns the id of the kept source, or undefined where the same mail was here before
 */
async function keepSource(
  work: Work,
  { mail, raw, envelope, kind }: { mail: ReadMail; raw: Buffer; envelope: Envelope; kind: MailKind },
): Promise<string | undefined> {
  const { rows } = await work.tx.raw(
    `with locked as materialized (
       select count(pg_advisory_xact_lock(k)::text) as n
       from (select distinct hashtextextended(id, 7) as k from unnest(:ids::text[]) as id order by k) keys)
     insert into mail_source (sha256, message_id, received_at, envelope_from, envelope_to, raw, decision, headers, sender, subject)
     select :sha256, :messageId, :now, :from, :to::text[], :raw, :decision, :headers, :sender, :subject from locked
     on conflict (sha256) do nothing returning id`,
    {
      ids: talkIds(mail),
      sha256: Buffer.from(mail.sameness),
      messageId: mail.messageId,
      now: at(work.now),
      from: envelope.from,
      to: envelope.to,
      raw,
      decision: JSON.stringify({ kind }),
      headers: JSON.stringify(mail.headers),
      sender: senderOf(mail, envelope),
      subject: mail.subject,
    } as never,
  );
  return rows[0]?.id;
}

/** Kept whole and shown in Setup, where a person can make a ticket of it. */
async function keepUnread(app: App, raw: Buffer, envelope: Envelope): Promise<Received> {
  const mail = await app.mails.read(raw).catch(() => app.mails.nothingOf(raw));
  return done(
    await transact<Received>(app, { now: app.clock.now(), actor: MAIL }, async (work) => {
      const sourceId = await keepSource(work, { mail, raw, envelope, kind: 'automatic' });
      if (!sourceId) return { did: 'seen before' };
      return keepAside(work, {
        sourceId,
        sender: senderOf(mail, envelope),
        subject: mail.subject,
        reason: 'it could not be filed; the fault is in the log',
        ruleId: null,
      });
    }),
  );
}

function done(outcome: Received | { readonly refused: string; readonly detail: string }): Received {
  if ('refused' in outcome) throw new Error(outcome.detail);
  return outcome;
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
