import type { Id } from '@core/ground';
import type { App } from '../../app/app';
import type { Work } from '../../app/work';
import { sendInThread } from '../messages/write-messages';
import { statusLink } from '../tickets/status-links';

/**
 * Tells the contacts that their report was joined, each in their own thread, with the address of a page that
 * shows where it stands. It is an acknowledgement and no answer: it ends neither a clock nor a reply owed.
 * @returns how many were told
 */
export async function tellJoined(app: App, work: Work, ticketIds: readonly Id<'ticket'>[]): Promise<number> {
  let told = 0;
  for (const id of new Set(ticketIds)) {
    const link = await statusLink(app, work, id);
    const sent = await sendInThread(app, work, {
      ticketId: id,
      text: `Others have reported the same to us, and we work on all of it as one. You need not do anything.\n\nSee where it stands at any time:\n${link}\n\nWhat you write to us still reaches us under your own report.`,
      automatic: true,
    });
    if (sent) told++;
  }
  return told;
}
