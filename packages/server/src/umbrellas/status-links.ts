import { randomBytes } from 'node:crypto';
import type { App } from '../app/app';
import { at } from '../app/database';
import type { Work } from '../app/work';

/** 144 bits, so that nobody finds another's page by trying. */
const TOKEN_BYTES = 18;

/** The secret address of a ticket's own page, the same as long as the ticket lives. */
export async function statusLink(app: App, work: Work, ticketId: string): Promise<string> {
  await work
    .tx('status_link')
    .insert({ token: randomBytes(TOKEN_BYTES).toString('base64url'), ticket_id: ticketId, made_at: at(work.now) })
    .onConflict('ticket_id')
    .ignore();
  const { token } = await work.tx('status_link').where({ ticket_id: ticketId }).first('token');
  return `${app.config.PUBLIC_URL}/follow/${token}`;
}
