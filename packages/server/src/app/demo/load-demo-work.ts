import type { Knex } from 'knex';
import { addWorkingSeconds } from '@core/calendars';
import { subjectWithToken } from '@core/messages';
import { isRefusal, type Outcome } from '@core/outcome';
import { dateOf, instantAt, plusDays, plusSeconds, wallMinuteOf, weekdayOf, formatInstant, type Instant, type LocalDate } from '@core/time';
import { bookTicket, setBookingState } from '../../dispatch/book-ticket';
import type { HouseBook } from '../../house/house-book';
import { addNote } from '../../messages/write-messages';
import { setStatus, assignTicket } from '../../tickets/move-ticket';
import { openTicket } from '../../tickets/open-ticket';
import { addFacts, storeClocks } from '../../tickets/ticket-clock-store';
import { triageTicket } from '../../tickets/triage-ticket';
import { addEntry } from '../../time-entries/record-time';
import { at } from '../database';
import { makeWork, type Actor, type Work } from '../work';
import { DEMO_CLIENTS } from './demo-clients';
import { billDemoMonths } from './load-demo-money';
import { DEMO_TOPICS, type DemoTopic } from './demo-topics';
import { DemoRandom } from './demo-random';
import { UNSORTED } from './demo-story';

const SEED = 4711;
const A_DAY = [5, 9] as const;
/** A time entry is logged before this minute of the day. */
const LAST_MINUTE = 17 * 60;

/** Work that came in since then is often still open. */
const LATELY_SECONDS = 13 * 86_400;

interface Cast {
  readonly people: { id: string; name: string; role: string; technician: boolean; team: string | null }[];
  readonly clients: { id: string; name: string; contacts: { id: string; name: string; email: string; site: string }[]; assets: { id: string; number: string; name: string }[] }[];
  readonly desks: { id: string; name: string }[];
  readonly activities: { id: string; name: string }[];
}

interface Teller {
  readonly tx: Knex.Transaction;
  readonly book: HouseBook;
  readonly random: DemoRandom;
  readonly cast: Cast;
  readonly story: Instant;
  /** Until when each technician's recorded time reaches. */
  readonly busyUntil: Map<string, Instant>;
}

/** Tells about 90 days of work by the commands that the interface uses, each at its own time. */
export async function tellDemoStory(tx: Knex.Transaction, book: HouseBook, story: Instant, days: number): Promise<void> {
  const teller: Teller = { tx, book, story, random: new DemoRandom(SEED), cast: await readCast(tx), busyUntil: new Map() };
  const today = dateOf(story, book.house.zone);
  for (let date = plusDays(today, -days); date < today; date = plusDays(date, 1)) {
    if (weekdayOf(date) > 5) continue;
    const starts = Array.from({ length: teller.random.whole(...A_DAY) }, () => instantAt(date, teller.random.whole(8 * 60, 16 * 60), book.house.zone)).sort((a, b) => a - b);
    for (const start of starts) await tellTicket(teller, start);
    // Without fresh statistics the planner reads whole tables for each command.
    if (weekdayOf(date) === 5) await tx.raw('analyze');
  }
  await tellToday(teller, today);
  await billDemoMonths(tx, book, story, days);
}

async function readCast(tx: Knex.Transaction): Promise<Cast> {
  const contacts = await tx('contact as k').leftJoin('site as s', 's.id', 'k.site_id').orderBy('k.email').select('k.id', 'k.name', 'k.email', 'k.client_id', 's.name as site');
  const assets = await tx('asset').orderBy('number').select('id', 'number', 'name', 'client_id');
  const clients = await tx('client').orderBy('number').select('id', 'name');
  return {
    people: await tx('person as p').leftJoin('team as t', 't.id', 'p.team_id').orderBy('p.name').select('p.id', 'p.name', 'p.role', 'p.technician', 't.name as team'),
    clients: clients.map((c) => ({ ...c, contacts: contacts.filter((k) => k.client_id === c.id), assets: assets.filter((a) => a.client_id === c.id) })),
    desks: await tx('desk').select('id', 'name'),
    activities: await tx('activity').select('id', 'name'),
  };
}

function as(teller: Teller, name: string, now: Instant): Work {
  const person = teller.cast.people.find((p) => p.name === name)!;
  const work = makeWork(teller.tx, now, { personId: person.id, name, role: person.role as Actor['role'], via: 'web' });
  return { ...work, emit: async () => undefined, enqueue: async () => undefined };
}

function must<T>(outcome: Outcome<T>): T {
  if (isRefusal(outcome)) throw new Error(`the demo's story cannot be told: ${outcome.detail}`);
  return outcome;
}

function pickClient({ cast, random }: Teller) {
  let left = random.whole(1, DEMO_CLIENTS.reduce((a, c) => a + c.weight, 0));
  return cast.clients.find((c) => (left -= DEMO_CLIENTS.find((d) => d.name === c.name)!.weight) <= 0)!;
}

type Contact = Cast['clients'][number]['contacts'][number];

/** A client's mail, as the receiver stores it. */
async function clientWrites(teller: Teller, ticketId: string, contact: Contact, now: Instant, subject: string, text: string): Promise<void> {
  await teller.tx('message').insert({ ticket_id: ticketId, at: at(now), direction: 'in', visibility: 'public', author_contact_id: contact.id, author_name: contact.name, author_email: contact.email, to_addresses: [teller.book.house.mailFrom], subject, text, message_id: `<${ticketId.slice(0, 8)}.${now}@${contact.email.split('@')[1]}>` });
  const work = { ...makeWork(teller.tx, now, { personId: null, name: 'mail', role: null, via: 'mail' }), emit: async () => undefined };
  await work.tell({ subject: 'ticket', id: ticketId, what: `${contact.name} wrote` });
}

/** A reply that left at `now`. */
async function personReplies(teller: Teller, ticket: { id: string; number: number; secret: string }, contact: Contact, who: string, now: Instant, subject: string, text: string): Promise<void> {
  const work = as(teller, who, now);
  await teller.tx('message').insert({ ticket_id: ticket.id, at: at(now), direction: 'out', visibility: 'public', author_person_id: work.actor.personId, author_name: who, to_addresses: [contact.email], subject: subjectWithToken(subject, ticket), text, message_id: `<${ticket.id.slice(0, 8)}.${now}@pellworth.example>`, leaves_at: at(now), left_at: at(now) });
  await addFacts(work, ticket.id, [{ at: now, is: 'public-contact' }]);
  await teller.tx('ticket').where({ id: ticket.id }).update({ reply_owed_since: null });
  await storeClocks(work, teller.book, ticket.id);
  await work.tell({ subject: 'ticket', id: ticket.id, what: `wrote to ${contact.email}` });
}

async function open(teller: Teller, client: Cast['clients'][number] | null, contact: Contact, now: Instant, subject: string, text: string) {
  const work = { ...makeWork(teller.tx, now, { personId: null, name: 'mail', role: null, via: 'mail' } as Actor), emit: async () => undefined };
  const ticket = await openTicket(work, teller.book, { subject, clientId: client?.id ?? null, contactId: client ? contact.id : null, senderEmail: contact.email, senderName: contact.name, threadingWhy: [{ rule: 'no message or token of ours: a new ticket' }], linkedTicketId: null, byCall: false });
  if (client) await clientWrites(teller, ticket.id, contact, now, subject, text);
  else await teller.tx('message').insert({ ticket_id: ticket.id, at: at(now), direction: 'in', visibility: 'public', author_name: contact.name, author_email: contact.email, to_addresses: [teller.book.house.mailFrom], subject, text, message_id: `<${ticket.id}@${contact.email.split('@')[1]}>` });
  return ticket;
}

function fill(text: string, contact: Contact, asset: { number: string } | undefined): string {
  return text.replaceAll('{first}', contact.name.split(' ')[0]!).replaceAll('{asset}', asset?.number ?? 'the machine').replaceAll('{site}', contact.site ?? 'the office');
}

/** One ticket from its mail to its end, or as far as it got by the story's now. */
async function tellTicket(teller: Teller, receivedAt: Instant): Promise<void> {
  const { random, book, story } = teller;
  const [client, topic] = [pickClient(teller), random.pick(DEMO_TOPICS)];
  const [contact, asset] = [random.pick(client.contacts), random.pick(client.assets)];
  const subject = fill(random.pick(topic.subjects), contact, asset);
  const ticket = await open(teller, client, contact, receivedAt, subject, fill(random.pick(topic.asks), contact, asset));
  const triagedAt = later(teller, receivedAt, random.whole(2, random.chance(6) ? 40 : 13));
  if (triagedAt > story) return;
  const technician = pickTechnician(teller, topic);
  const triage = { kind: topic.kind, impact: topic.impact, urgency: topic.urgency, deskId: teller.cast.desks.find((d) => d.name === (topic.desk ?? 'Support'))!.id, clientId: client.id, contactId: contact.id, assetId: random.chance(60) ? asset!.id : null, assigneeId: random.chance(80) ? technician.id : null };
  must(await triageTicket(as(teller, 'Aoife Brannigan', triagedAt), book, ticket.id, undefined, triage));
  const lately = story - receivedAt < LATELY_SECONDS;
  if (lately && random.chance(20)) return;
  const answeredAt = later(teller, triagedAt, random.whole(5, random.chance(8) ? 420 : 50));
  if (answeredAt > story) return;
  await personReplies(teller, ticket, contact, technician.name, answeredAt, subject, fill(random.pick(topic.answers), contact, asset));
  if (lately && random.chance(45)) return;
  const worked = await workOn(teller, ticket.id, technician.name, topic, answeredAt);
  if (!worked) return;
  if (random.chance(35)) await addNote(as(teller, technician.name, worked), ticket.id, topic.note);
  if (lately && random.chance(25)) return;
  await finish(teller, { ticket, contact, asset, subject, topic, technician: technician.name, from: worked });
}

interface Ending {
  readonly ticket: { id: string; number: number; secret: string };
  readonly contact: Contact;
  readonly asset: { number: string } | undefined;
  readonly subject: string;
  readonly topic: DemoTopic;
  readonly technician: string;
  readonly from: Instant;
}

async function finish(teller: Teller, { ticket, contact, asset, subject, topic, technician, from }: Ending): Promise<void> {
  const { random, book, story } = teller;
  let last = from;
  if (topic.back && random.chance(55)) {
    must(await setStatus(as(teller, technician, last), book, ticket.id, undefined, 'on hold', 'client'));
    last = later(teller, last, random.whole(20, 500));
    if (last > story) return;
    await clientWrites(teller, ticket.id, contact, last, `Re: ${subject}`, fill(topic.back, contact, asset));
    must(await setStatus(as(teller, technician, last), book, ticket.id, undefined, 'queued', null));
    last = later(teller, last, random.whole(4, 60));
    if (last > story) return;
  }
  await personReplies(teller, ticket, contact, technician, last, subject, fill(topic.ends, contact, asset));
  must(await setStatus(as(teller, technician, last), book, ticket.id, undefined, 'resolved', null));
  const closes = instantAt(plusDays(dateOf(last, book.house.zone), 7), wallMinuteOf(last, book.house.zone), book.house.zone);
  if (closes < story) must(await setStatus(as(teller, technician, closes), book, ticket.id, undefined, 'closed', null));
}

/** Minutes of the provider's working time later. */
function later({ book }: Teller, from: Instant, minutes: number): Instant {
  return addWorkingSeconds(book.house.calendar, from, minutes * 60) as Instant;
}

function pickTechnician({ cast, random }: Teller, topic: DemoTopic) {
  const second = topic.desk === 'Security' || topic.minutes[1] > 100;
  return random.pick(cast.people.filter((p) => p.technician && p.role === 'technician' && (p.team === 'Second line') === second));
}

/** Records the work after `from`, never beside other work of the same person. Answers with when it ended. */
async function workOn(teller: Teller, ticketId: string, name: string, topic: DemoTopic, from: Instant): Promise<Instant | undefined> {
  const { random, book, busyUntil, story } = teller;
  const minutes = random.whole(...topic.minutes);
  let start = Math.max(Math.ceil(from / 300) * 300, busyUntil.get(name) ?? 0) as Instant;
  if (wallMinuteOf(start, book.house.zone) + minutes > LAST_MINUTE || wallMinuteOf(start, book.house.zone) < 480) start = later(teller, instantAt(plusDays(dateOf(start, book.house.zone), 1), 7 * 60, book.house.zone), random.whole(10, 40));
  start = (Math.ceil(start / 300) * 300) as Instant;
  const end = plusSeconds(start, minutes * 60);
  if (end > story) return undefined;
  busyUntil.set(name, end);
  const activity = teller.cast.activities.find((a) => a.name === topic.activity)!;
  must(await addEntry(as(teller, name, end), book, { ticketId, startsAt: formatInstant(start), duration: String(minutes), activityId: activity.id, note: random.chance(92) ? topic.note : null, billable: !random.chance(6), reason: 'goodwill' }));
  return end;
}

/** The morning of the story: what lies unsorted, what is owed, and who is on which booking. */
async function tellToday(teller: Teller, today: LocalDate): Promise<void> {
  const { book, story, cast, tx } = teller;
  const clock = (minute: number) => instantAt(today, minute, book.house.zone);
  for (const message of UNSORTED) {
    const client = cast.clients.find((c) => c.name === message.client) ?? null;
    const contact = client?.contacts.find((k) => k.name === `${message.first} ${message.last}`) ?? { id: '', name: 'hall tablet', email: `${message.first}@${message.last}`, site: '' };
    await open(teller, client, contact, plusSeconds(story, -60 * message.minutesAgo), message.subject, message.text);
  }
  const openTickets = await tx('ticket').whereIn('status', ['queued']).whereNot('kind', 'unsorted').orderBy('number', 'desc').limit(60).select('id', 'number', 'secret', 'subject', 'contact_id');
  const plan: [string, number, number][] = [
    ['Deepa Raghunathan', 8 * 60 + 30, 60], ['Deepa Raghunathan', 11 * 60 + 30, 75], ['Deepa Raghunathan', 14 * 60, 90],
    ['Marisol Quintero', 8 * 60, 120], ['Marisol Quintero', 11 * 60, 90], ['Marisol Quintero', 13 * 60 + 15, 105], ['Marisol Quintero', 15 * 60 + 30, 90],
    ['Fionn Hartigan', 10 * 60, 90], ['Fionn Hartigan', 13 * 60 + 30, 90],
    ['Yusuf Demirel', 8 * 60 + 30, 105], ['Yusuf Demirel', 10 * 60 + 45, 90], ['Yusuf Demirel', 13 * 60 + 30, 120],
    ['Ines Valadares', 8 * 60, 75], ['Ines Valadares', 9 * 60 + 30, 150], ['Ines Valadares', 13 * 60 + 15, 90], ['Ines Valadares', 15 * 60 + 15, 120],
    ['Sora Minegishi', 9 * 60, 60], ['Sora Minegishi', 11 * 60, 60], ['Piotr Zaleski', 9 * 60 + 15, 90], ['Piotr Zaleski', 14 * 60 + 30, 60], ['Odalys Figueroa', 8 * 60 + 45, 45],
  ];
  for (const [i, [name, minute, length]] of plan.entries()) {
    const ticket = openTickets[i];
    if (!ticket) break;
    const person = cast.people.find((p) => p.name === name)!;
    const booking = must(await bookTicket(as(teller, 'Tomasz Wieland', clock(7 * 60 + 50)), book, ticket.id, { personId: person.id, startsAt: formatInstant(clock(minute)), minutes: length }));
    const ended = minute + length < 10 * 60 + 40;
    if (!ended) continue;
    const worked = name === 'Deepa Raghunathan' ? length - 20 : length;
    const remote = cast.activities.find((a) => a.name === (name === 'Marisol Quintero' ? 'on site' : 'remote'))!;
    must(await addEntry(as(teller, name, clock(minute + worked)), book, { ticketId: ticket.id, startsAt: formatInstant(clock(minute)), duration: String(worked), activityId: remote.id, note: `Worked on: ${ticket.subject}`, billable: true, reason: null }));
    must(await setBookingState(as(teller, name, clock(minute + worked)), book, booking.id, booking.version, 'done'));
  }
  for (const [i, ticket] of openTickets.slice(plan.length, plan.length + 3).entries()) {
    const contact = cast.clients.flatMap((c) => c.contacts).find((k) => k.id === ticket.contact_id)!;
    const when = clock(9 * 60 + 5 + i * 23);
    await clientWrites(teller, ticket.id, contact, when, `Re: ${ticket.subject}`, ['Any news on this? I am here until two.', 'Hello again, it has just happened once more, at ten past nine.', 'Could somebody ring me before lunch, please?'][i]!);
    await tx('ticket').where({ id: ticket.id }).update({ reply_owed_since: at(when) });
    if (i === 0) must(await assignTicket(as(teller, 'Aoife Brannigan', when), ticket.id, undefined, cast.people.find((p) => p.name === 'Deepa Raghunathan')!.id));
  }
}
