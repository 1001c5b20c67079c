import type { Id } from '@core/ground';
import { at } from '../../app/database';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house';
import { takeClientMessage } from '../tickets/reply-owed';

/** Whose answer a press in a mail is. */
export interface LinkAuthor {
  readonly ticketId: Id<'ticket'>;
  /** The contact's, where the ticket has one. */
  readonly id: Id<'contact'> | null;
  readonly name: string;
  readonly email: string | null;
}

/** What a client said by a press in a mail of ours is a message of theirs: it owes a reply, and reopens what was resolved. */
export async function writeByLink(
  work: Work,
  book: HouseBook,
  { author, words }: { readonly author: LinkAuthor; readonly words: string },
): Promise<void> {
  await work.tx('message').insert({
    ticket_id: author.ticketId,
    at: at(work.now),
    direction: 'in',
    visibility: 'public',
    author_contact_id: author.id,
    author_name: author.name,
    author_email: author.email,
    text: `${words} (Answered by the press in our mail.)`,
    via: 'link',
  });
  await takeClientMessage(work, book, { ticketId: author.ticketId, author: author.name, contactId: author.id, thanks: false });
}

/** The author of a row that has a ticket's contact beside its sender. */
export function linkAuthor(ticketId: Id<'ticket'>, row: Readonly<Record<string, string | null>>): LinkAuthor {
  return {
    ticketId,
    id: row['contact_id'] ?? null,
    name: row['name'] ?? row['sender_name'] ?? 'The client',
    email: row['email'] ?? row['sender_email'] ?? null,
  };
}
