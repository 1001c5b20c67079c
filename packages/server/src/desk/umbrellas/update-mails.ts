import { fillPlaceholders, namesOthers, type Placeholder, subjectWithToken, type UpdateForm, type UpdatePreview } from '@core/desk';
import { type Id, type Instant, type Outcome, refuse, sayMoment } from '@core/ground';
import type { Db } from '../../app/database';
import type { HouseBook } from '../../house';

interface MemberRow {
  readonly id: Id<'ticket'>;
  readonly number: number;
  readonly secret: string;
  readonly subject: string;
  readonly client_id: string | null;
  readonly client: string | null;
  readonly contact: string | null;
  readonly sender_name: string | null;
  readonly email: string | null;
  readonly sender_email: string | null;
}

export interface UpdateAuthor {
  readonly name: string;
}

/** What an update would say to each member's contact, and what is wrong with it. One reading for preview and sending. */
export async function readUpdateMails(
  db: Db,
  book: HouseBook,
  { umbrellaId, form, author }: { readonly umbrellaId: Id<'ticket'>; readonly form: UpdateForm; readonly author: UpdateAuthor },
): Promise<Outcome<UpdatePreview>> {
  const umbrella = await db('ticket').where({ id: umbrellaId }).first('is_umbrella', 'number', 'due_at');
  if (!umbrella) return refuse('not-found', 'There is no such ticket.');
  if (!umbrella.is_umbrella) return refuse('not-possible-now', `#${umbrella.number} is no umbrella.`);
  const all = await readMembers(db, umbrellaId);
  const chosen = all.filter((m) => form.memberIds.includes(m.id));
  if (chosen.length < new Set(form.memberIds).size)
    return refuse('invalid', 'One of these is no member any more.', { memberIds: 'choose among the members' });
  return {
    mails: chosen.filter(addressOf).map((m) => {
      const filled = fillPlaceholders(form.text, valuesFor(m, author, due(book, umbrella.due_at)));
      return {
        ticketId: m.id,
        number: m.number,
        client: m.client,
        contact: m.contact ?? m.sender_name ?? addressOf(m)!,
        to: addressOf(m)!,
        subject: subjectWithToken(m.subject, m),
        text: filled.text,
        trouble: [
          ...filled.empty.map((name) => `there is nothing to put in for {${name}}`),
          ...filled.unknown.map((word) => `${word} stands for nothing`),
          ...namesOthers(filled.text, namesBarredFor(m, all)).map((name) => `it names ${name}, who are somebody else's business`),
        ],
      };
    }),
    unreachable: chosen.filter((m) => !addressOf(m)).map((m) => ({ ticketId: m.id, number: m.number })),
  };
}

function readMembers(db: Db, umbrellaId: Id<'ticket'>): Promise<MemberRow[]> {
  return db('ticket as t')
    .leftJoin('client as c', 'c.id', 't.client_id')
    .leftJoin('contact as k', 'k.id', 't.contact_id')
    .where('t.umbrella_id', umbrellaId)
    .orderBy('t.number')
    .select(
      't.id',
      't.number',
      't.secret',
      't.subject',
      't.client_id',
      't.sender_name',
      't.sender_email',
      'c.name as client',
      'k.name as contact',
      'k.email',
    );
}

function addressOf(m: MemberRow): string | null {
  return m.email ?? m.sender_email;
}

function valuesFor(m: MemberRow, author: UpdateAuthor, dueWords: string | null): Partial<Record<Placeholder, string | null>> {
  const contact = m.contact ?? m.sender_name;
  return {
    contact,
    'first name': contact?.split(' ')[0] ?? null,
    number: String(m.number),
    subject: m.subject,
    client: m.client,
    due: dueWords,
    me: author.name,
  };
}

function due(book: HouseBook, dueAt: Instant | null): string | null {
  return dueAt === null ? null : sayMoment(dueAt, book.house.zone);
}

/** No client may read another's name: neither the client nor any of their people on this umbrella. */
function namesBarredFor(m: MemberRow, all: readonly MemberRow[]): string[] {
  return all
    .filter((other) => other.client_id !== m.client_id)
    .flatMap((other) => [other.client, other.contact ?? other.sender_name])
    .filter((name): name is string => name !== null && name !== m.client);
}
