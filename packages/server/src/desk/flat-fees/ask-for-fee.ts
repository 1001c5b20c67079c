import { formatMoney, type Id, type Outcome, refuse } from '@core/ground';
import type { App } from '../../app/app';
import { byContact, byNobody } from '../../app/actor';
import { transact, type Work, workAs } from '../../app/work';
import { hashSecret } from '../../house';
import { linkAuthor, writeByLink } from '../messages/write-by-link';
import { sendInThread } from '../messages/write-messages';
import { statusLink } from '../tickets/status-links';
import { readTicketFee } from '../tickets/read-ticket-fee';

/** Asks the client whether they agree to the fee, in the ticket's thread, to be answered by a press in the mail. */
export async function askForFee(app: App, work: Work, ticketId: Id<'ticket'>): Promise<Outcome<Record<string, never>>> {
  const { fee } = await readTicketFee(work.tx, ticketId);
  const link = await statusLink(app, work, ticketId);
  const sent = await sendInThread(app, work, {
    ticketId,
    text: `We can do this for a flat fee: ${fee!.quantity} × ${fee!.name}, ${formatMoney(fee!.net)} before tax. We begin when you agree.\n\nYes, please do it:\n${link}/fee/yes\n\nNo, do not:\n${link}/fee/no`,
  });
  return sent ? {} : refuse('not-possible-now', 'The client must agree, and there is nobody to ask. Name a contact first.');
}

/**
 * Takes the client's answer about the fee. A yes charges it, once; a no is a message that owes a reply.
 * @returns false where nothing was asked at that address
 */
export async function answerFee(app: App, token: string, agrees: boolean): Promise<boolean> {
  const outcome = await transact(app, { now: app.clock.now(), actor: byNobody('page') }, async (unknown) => {
    const asked = await unknown
      .tx('status_link as l')
      .join('ticket_fee as x', 'x.ticket_id', 'l.ticket_id')
      .join('ticket as t', 't.id', 'x.ticket_id')
      .leftJoin('contact as k', 'k.id', 't.contact_id')
      .where('l.token_hash', hashSecret(token))
      .first('x.ticket_id', 'x.state', 't.sender_name', 't.sender_email', 't.contact_id', 'k.name', 'k.email');
    if (!asked) return { known: false };
    const author = linkAuthor(asked.ticket_id, asked);
    const work = workAs(unknown, byContact(author, 'page'));
    await work.tx('ticket_fee').where({ ticket_id: asked.ticket_id }).forUpdate().first('state');
    if (asked.state !== 'asked') return { known: true };
    await work
      .tx('ticket_fee')
      .where({ ticket_id: asked.ticket_id })
      .update({ state: agrees ? 'agreed' : 'refused' });
    if (!agrees) await writeByLink(work, app.house, { author, words: 'I do not agree to the fee.' });
    await work.tell('ticket.fee-answered', asked.ticket_id, { agrees });
    return { known: true };
  });
  return 'known' in outcome && outcome.known;
}
