import { type Delivery, type DeliveryReport, plainId, sayMailFailed } from '@core/desk';
import { formatInstant, type Id } from '@core/ground';
import type { App } from '../../app/app';
import { at } from '../../app/database';
import type { Row } from '../../app/rows';
import { handleReport } from '../../app/handled-reports';
import type { Work } from '../../app/work';
import { tellPerson } from '../../house';
import { tellFollowers } from '../followers/followers';
import { moveByFact } from '../tickets/move-ticket';
import { oweFirstReply } from '../tickets/reply-owed';
import { storeClocks } from '../clocks/ticket-clock-store';
import { oweLook } from './file-mail';
import type { ReadMail } from './read-mail';
import type { Received } from './receive-mail';

interface Reported {
  readonly mail: ReadMail;
  readonly report: DeliveryReport;
  readonly sourceId: string;
}

/**
 * Takes a delivery report to the message it is about. Where that did not arrive, the reply is owed again, a hold for
 * the client ends, whoever has the ticket is told, and the address is marked. A delay is shown, and changes nothing.
 * @returns undefined where it names no message of ours
 */
export async function takeReport(app: App, work: Work, { mail, report, sourceId }: Reported): Promise<Received | undefined> {
  const ids = [...(report.originalId ? [plainId(report.originalId)] : []), ...mail.cites];
  const message: Row<'message', 'id' | 'ticket_id' | 'deliveries' | 'to_addresses' | 'cc_addresses'> | undefined = await work
    .tx('message')
    .whereIn('message_id', ids)
    .andWhere({ direction: 'out' })
    .forUpdate()
    .first('id', 'ticket_id', 'deliveries', 'to_addresses', 'cc_addresses');
  if (!message) {
    const taken = await handleReport(work, { mailFrom: app.house.house.mailFrom, ids, deliveries: report.deliveries });
    if (taken) await markUnreached(work, failedOf(report.deliveries), new Set([taken.sentTo.toLowerCase()]));
    return taken ? { did: 'joined' } : undefined;
  }
  const sentTo = new Set([...message.to_addresses, ...message.cc_addresses].map((a: string) => a.toLowerCase()));
  const deliveries = report.deliveries.filter((d) => sentTo.has(d.address));
  const known = deliveries.length ? deliveries : report.deliveries;
  const failed = failedOf(known);
  const ticketId: Id<'ticket'> = message.ticket_id;
  await work
    .tx('message')
    .where({ id: message.id })
    .update({
      deliveries: JSON.stringify(newest([...(message.deliveries as Kept[]), ...known.map((d) => ({ ...d, at: formatInstant(work.now) }))])),
      ...(failed.length ? { undelivered_at: at(work.now) } : {}),
    });
  await work.tx('message').insert({
    ticket_id: ticketId,
    at: at(work.now),
    direction: 'in',
    visibility: 'public',
    author_name: mail.from?.name || mail.from?.address || 'A mail server',
    author_email: mail.from?.address ?? null,
    subject: mail.subject,
    text: mail.text,
    message_id: mail.messageId,
    reference_ids: mail.cites,
    automatic: true,
    source_id: sourceId,
    notice: JSON.stringify({ is: 'delivery', deliveries: known }),
    left_out: mail.leftOut,
  });
  await markUnreached(work, failed, sentTo);
  if (failed.length) await takeFailure(app, work, { ticketId, failed });
  else for (const d of known) await tell(work, ticketId, d);
  const ticket = (await work.tx('ticket').where({ id: ticketId }).first('number'))!;
  return { did: 'joined', ticketId, number: ticket.number };
}

type Kept = Delivery & { readonly at: string };

/** What became of it last, for each address. */
function newest(all: readonly Kept[]): Kept[] {
  return [...new Map(all.map((d) => [d.address, d])).values()];
}

async function tell(work: Work, ticketId: Id<'ticket'>, { became, address, why }: Delivery): Promise<void> {
  if (became === 'delivered') await work.tell('ticket.mail-reached', ticketId, { address });
  else await work.tell(became === 'failed' ? 'ticket.mail-failed' : 'ticket.mail-delayed', ticketId, { address, why });
}

const failedOf = (deliveries: readonly Delivery[]) => deliveries.filter((d) => d.became === 'failed');

/** Anybody can write a report: it marks no address but those that the mail went to. */
async function markUnreached(work: Work, failed: readonly Delivery[], sentTo: ReadonlySet<string>): Promise<void> {
  for (const { address, why } of failed.filter((d) => sentTo.has(d.address)))
    await work
      .tx('contact')
      .whereRaw('lower(email) = ?', [address])
      .whereNull('archived_at')
      .update({ mail_trouble: why, mail_trouble_at: at(work.now) });
}

async function takeFailure(
  app: App,
  work: Work,
  { ticketId, failed }: { readonly ticketId: Id<'ticket'>; readonly failed: readonly Delivery[] },
): Promise<void> {
  const ticket = (await work.tx('ticket').where({ id: ticketId }).first('status', 'hold_reason', 'number', 'subject', 'assignee_id'))!;
  if (ticket.status === 'on hold' && ticket.hold_reason === 'client') await moveByFact(work, app.house, { ticketId, to: 'queued' });
  await oweFirstReply(work, ticketId);
  // Where nobody had asked, nothing is owed to them, yet somebody must see it.
  await oweLook(work, { ticketId, is: 'not delivered', whom: failed.map((d) => d.address).join(', ') });
  await storeClocks(work, app.house, { ticketId });
  for (const d of failed) await tell(work, ticketId, d);
  const what = failed.map(({ address, why }) => sayMailFailed(address, why)).join('; ');
  const words = `#${ticket.number} ${ticket.subject}: ${what}`;
  if (ticket.assignee_id) await tellPerson(work, { personId: ticket.assignee_id, text: words, ticketId });
  await tellFollowers(work, { ticketId, what, but: ticket.assignee_id ? [ticket.assignee_id] : [] });
}
