import type { Id } from '@core/ground';
import type { App } from '../../app/app';
import { at } from '../../app/database';
import type { Work } from '../../app/work';
import { makeSecret, tokenOf } from '../../house';

/** The secret address of a ticket's own page, the same until it is revoked. */
export async function statusLink(app: App, work: Work, ticketId: Id<'ticket'>): Promise<string> {
  await work
    .tx('status_link')
    .insert({ ...makeSecret(app, 'follow'), ticket_id: ticketId, made_at: at(work.now) })
    .onConflict('ticket_id')
    .ignore();
  const { nonce } = (await work.tx('status_link').where({ ticket_id: ticketId }).first('nonce'))!;
  return `${app.config.PUBLIC_URL}/follow/${tokenOf(app, 'follow', nonce)}`;
}

/** Lets the address answer no more; the next mail that carries one carries another. */
export async function revokeStatusLink(work: Work, ticketId: Id<'ticket'>): Promise<number> {
  const revoked = await work.tx('status_link').where({ ticket_id: ticketId }).delete();
  if (revoked) await work.tell('ticket.status-link-revoked', ticketId, {});
  return revoked;
}
