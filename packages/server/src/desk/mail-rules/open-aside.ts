import { type Id, type Outcome, refuse, step } from '@core/ground';
import type { App } from '../../app/app';
import { at } from '../../app/database';
import type { Work } from '../../app/work';
import { fileMail, type KeptFile } from '../messages/file-mail';
import { findSender } from '../messages/find-sender';
import type { ReadMail } from '../messages/read-mail';

interface Given {
  readonly mail: ReadMail;
  readonly files: readonly KeptFile[];
  readonly from: string;
}

/** Makes a ticket of a mail that was put aside, as if it had opened one when it came. */
export async function openAside(
  app: App,
  work: Work,
  { asideId, given: { mail, files, from } }: { readonly asideId: Id<'mail_source'>; readonly given: Given },
): Promise<Outcome<{ ticketId: Id<'ticket'>; number: number }>> {
  const aside = await work.tx('mail_aside').where({ source_id: asideId }).forUpdate().first('ticket_id', 'ended_at');
  if (!aside) return refuse('not-found', 'There is no such mail.');
  if (aside.ticket_id) return refuse('not-possible-now', 'A ticket was made of it already.');
  const filed = await fileMail(app, work, {
    mail,
    sender: await findSender(work, app.house, { mail, envelope: { from, to: [] } }),
    threading: { do: 'open', linkedTicketId: undefined, why: [step(`${work.actor.name} made a ticket of it; it had been put aside`)] },
    sourceId: asideId,
    automatic: false,
    thanks: false,
    thirdParty: null,
    files,
    notice: null,
  });
  await work
    .tx('mail_aside')
    .where({ source_id: asideId })
    .update({ ticket_id: filed.ticketId, ended_at: at(work.now), ended_by: work.actor.personId });
  await work.emit('mail-aside', asideId);
  return { ticketId: filed.ticketId!, number: filed.number! };
}
