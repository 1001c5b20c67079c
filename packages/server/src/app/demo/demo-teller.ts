import type { Knex } from 'knex';
import { subjectWithToken } from '@core/desk';
import { type Instant, isRefusal, type Outcome } from '@core/ground';
import type { HouseBook } from '../../house/house/house-book';
import { openTicket } from '../../desk/tickets/open-ticket';
import { endOwed } from '../../desk/tickets/reply-owed';
import { addFacts, storeClocks } from '../../desk/clocks/ticket-clock-store';
import { at } from '../database';
import { type Actor, byContact, byPerson, bySystem } from '../actor';
import { type Work, makeWork } from '../work';
import { DEMO_CLIENTS } from './demo-clients';
import type { DemoRandom } from './demo-random';

export interface Cast {
  readonly people: { id: string; name: string; role: string; technician: boolean; team: string | null }[];
  readonly clients: {
    id: string;
    name: string;
    contacts: { id: string; name: string; email: string; site: string }[];
    assets: { id: string; number: string; name: string }[];
  }[];
  readonly desks: { id: string; name: string }[];
  readonly activities: { id: string; name: string }[];
  readonly categories: { id: string; name: string }[];
}

export interface Teller {
  readonly tx: Knex.Transaction;
  readonly book: HouseBook;
  readonly random: DemoRandom;
  readonly cast: Cast;
  readonly story: Instant;
  /** Until when each technician's recorded time reaches. */
  readonly busyUntil: Map<string, Instant>;
  /** When people are not here. */
  readonly away: readonly { readonly person_id: string; readonly starts_at: Instant; readonly ends_at: Instant }[];
  /** What happened, the latest last. */
  readonly told: string[];
}

export async function readCast(tx: Knex.Transaction): Promise<Cast> {
  const contacts = await tx('contact as k')
    .leftJoin('site as s', 's.id', 'k.site_id')
    .whereNull('k.archived_at')
    .orderBy('k.email')
    .select('k.id', 'k.name', 'k.email', 'k.client_id', 's.name as site');
  const assets = await tx('asset').orderBy('number').select('id', 'number', 'name', 'client_id');
  const clients = await tx('client').orderBy('number').select('id', 'name');
  return {
    people: await tx('person as p')
      .leftJoin('team as t', 't.id', 'p.team_id')
      .orderBy('p.name')
      .select('p.id', 'p.name', 'p.role', 'p.technician', 't.name as team'),
    clients: clients.map((c) => ({
      ...c,
      contacts: contacts.filter((k) => k.client_id === c.id),
      assets: assets.filter((a) => a.client_id === c.id),
    })),
    desks: await tx('desk').select('id', 'name'),
    activities: await tx('activity').select('id', 'name'),
    categories: await tx('category').whereNotNull('parent_id').select('id', 'name'),
  };
}

export function as(teller: Teller, name: string, now: Instant): Work {
  const person = teller.cast.people.find((p) => p.name === name)!;
  const work = makeWork({
    tx: teller.tx,
    now,
    actor: byPerson({ id: person.id, name, role: person.role as Actor['role'] }, 'web'),
    book: teller.book,
  });
  return { ...work, emit: async () => undefined, enqueue: async () => undefined };
}

export function must<T>(outcome: Outcome<T>): T {
  if (isRefusal(outcome)) throw new Error(`the demo's story cannot be told: ${outcome.detail}`);
  return outcome;
}

export const pickClient = ({ cast, random }: Teller) => pickClientOf(cast, random);

/** One of the clients, those with more people oftener. */
export function pickClientOf(cast: Cast, random: DemoRandom) {
  let left = random.whole(
    1,
    DEMO_CLIENTS.reduce((a, c) => a + c.weight, 0),
  );
  return cast.clients.find((c) => (left -= DEMO_CLIENTS.find((d) => d.name === c.name)!.weight) <= 0)!;
}

export type Contact = Cast['clients'][number]['contacts'][number];

/** What a text of the demo says of this contact and this asset. */
export function fill(text: string, contact: Contact, asset: { number: string } | undefined): string {
  return text
    .replaceAll('{first}', contact.name.split(' ')[0]!)
    .replaceAll('{asset}', asset?.number ?? 'the machine')
    .replaceAll('{site}', contact.site ?? 'the office');
}

/** A client's mail, as the receiver stores it. */
export async function clientWrites(
  teller: Teller,
  {
    ticketId,
    contact,
    now,
    subject,
    text,
  }: { readonly ticketId: string; readonly contact: Contact; readonly now: Instant; readonly subject: string; readonly text: string },
): Promise<void> {
  await teller.tx('message').insert({
    ticket_id: ticketId,
    at: at(now),
    direction: 'in',
    visibility: 'public',
    author_contact_id: contact.id,
    author_name: contact.name,
    author_email: contact.email,
    to_addresses: [teller.book.house.mailFrom],
    subject,
    text,
    message_id: `<${ticketId.slice(0, 8)}.${now}@${contact.email.split('@')[1]}>`,
  });
  const work = makeWork({ tx: teller.tx, now, actor: byContact(contact, 'mail'), book: teller.book });
  await work.tell('ticket.message-received', ticketId, {});
}

export interface DemoReply {
  readonly ticket: { id: string; number: number; secret: string };
  readonly contact: Contact;
  readonly who: string;
  readonly now: Instant;
  readonly subject: string;
  readonly text: string;
}

/** A reply that left at `now`. */
export async function personReplies(teller: Teller, { ticket, contact, who, now, subject, text }: DemoReply): Promise<void> {
  const work = as(teller, who, now);
  await teller.tx('message').insert({
    ticket_id: ticket.id,
    at: at(now),
    direction: 'out',
    visibility: 'public',
    author_person_id: work.actor.personId,
    author_name: who,
    to_addresses: [contact.email],
    subject: subjectWithToken(subject, ticket),
    text,
    message_id: `<${ticket.id.slice(0, 8)}.${now}@pellworth.example>`,
    leaves_at: at(now),
    left_at: at(now),
  });
  await addFacts(work, ticket.id, [{ at: now, is: 'public-contact' }]);
  await endOwed(work, ticket.id);
  await storeClocks(work, teller.book, { ticketId: ticket.id });
  await work.tell('ticket.message-sent', ticket.id, { to: [contact.email], updateId: null });
}

export async function open(
  teller: Teller,
  {
    client,
    contact,
    now,
    subject,
    text,
  }: {
    readonly client: Cast['clients'][number] | null;
    readonly contact: Contact;
    readonly now: Instant;
    readonly subject: string;
    readonly text: string;
  },
) {
  const work = {
    ...makeWork({ tx: teller.tx, now, actor: bySystem('mail', 'mail'), book: teller.book }),
    emit: async () => undefined,
  };
  const ticket = await openTicket(work, teller.book, {
    subject,
    clientId: client?.id ?? null,
    contactId: client ? contact.id : null,
    senderEmail: contact.email,
    senderName: contact.name,
    threadingWhy: [{ rule: 'no message or token of ours: a new ticket' }],
    linkedTicketId: null,
    byCall: false,
  });
  if (client) await clientWrites(teller, { ticketId: ticket.id, contact, now, subject, text });
  else
    await teller.tx('message').insert({
      ticket_id: ticket.id,
      at: at(now),
      direction: 'in',
      visibility: 'public',
      author_name: contact.name,
      author_email: contact.email,
      to_addresses: [teller.book.house.mailFrom],
      subject,
      text,
      message_id: `<${ticket.id}@${contact.email.split('@')[1]}>`,
    });
  return ticket;
}
