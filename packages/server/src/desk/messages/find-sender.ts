import type { Work } from '../../app/work';
import type { HouseBook } from '../../house';
import { OWNER_COLUMNS, ownerOf, ownerValues, type TicketOwner } from '../tickets/ticket-owner';
import type { Sender } from './find-thread';
import type { ReadMail } from './read-mail';
import type { Envelope } from './receive-mail';

/** Who a mail is from where it does not say. */
const UNKNOWN_SENDER = 'unknown@unknown.invalid';

/** The address that a mail is from, in small letters. */
export function senderOf(mail: ReadMail, envelope: Envelope): string {
  return (mail.from?.address || envelope.from || UNKNOWN_SENDER).toLowerCase();
}

/** Who wrote a mail: a contact by their address, or somebody unknown. */
export async function findSender(
  work: Work,
  book: HouseBook,
  { mail, envelope }: { readonly mail: ReadMail; readonly envelope: Envelope },
): Promise<Sender> {
  const email = senderOf(mail, envelope);
  const { rows } = await work.tx.raw(
    `select k.id, k.name, k.priority, k.mail_trouble, ${OWNER_COLUMNS} from (select :email as email) asked
       left join contact k on lower(k.email) = asked.email and k.archived_at is null left join client c on c.id = k.client_id limit 1`,
    { ...ownerValues(book), email } as never,
  );
  const [row] = rows;
  return {
    email,
    name: row.name ?? (mail.from?.name || email),
    contactId: row.id,
    clientId: row.owner_client,
    priority: row.priority ?? false,
    unreached: Boolean(row.mail_trouble),
    owner: ownerOfMail(book, ownerOf(row), envelope),
  };
}

/** Mail of nobody's client is the division's that has the address it was sent to. */
function ownerOfMail(book: HouseBook, owner: TicketOwner, { to }: Envelope): TicketOwner {
  const division = owner.clientId === null ? book.divisionOfMail(to) : null;
  return division ? { ...owner, division } : owner;
}
