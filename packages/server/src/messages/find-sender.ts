import type { Work } from '../app/work';
import type { Sender } from './find-thread';
import type { ReadMail } from './read-mail';
import type { Envelope } from './receive-mail';

/** Who a mail is from where it does not say. */
export const UNKNOWN_SENDER = 'unknown@unknown.invalid';

/** Who wrote a mail: a contact by their address, or somebody unknown. */
export async function findSender(work: Work, mail: ReadMail, envelope: Envelope): Promise<Sender> {
  const email = (mail.from?.address || envelope.from || UNKNOWN_SENDER).toLowerCase();
  const contact = await work.tx('contact').whereRaw('lower(email) = ?', [email]).whereNull('archived_at').first('id', 'client_id', 'name');
  return { email, name: contact?.name ?? (mail.from?.name || email), contactId: contact?.id ?? null, clientId: contact?.client_id ?? null };
}
