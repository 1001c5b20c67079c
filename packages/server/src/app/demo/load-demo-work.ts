import type { Knex } from 'knex';
import {
  addWorkingSeconds,
  dateOf,
  formatInstant,
  type Instant,
  instantAt,
  type Interval,
  type LocalDate,
  plusDays,
  plusSeconds,
  wallMinuteOf,
  weekdayOf,
} from '@core/ground';
import { closesAt, DEFAULT_PRIORITY_MATRIX } from '@core/desk';
import type { HouseBook } from '../../house/house/house-book';
import { addNote } from '../../desk/messages/write-messages';
import { setStatus } from '../../desk/tickets/move-ticket';
import { triageTicket } from '../../desk/tickets/triage-ticket';
import { addEntry } from '../../time/time-entries/record-time';
import { setFee, setFeeResult } from '../../desk/flat-fees/ticket-fee';
import { FEE_OF_CATEGORY } from './load-demo-fees';
import { SMALL_TOPICS } from './demo-small-causes';
import { DEMO_TOPICS, type DemoTopic } from './demo-topics';
import { DemoRandom } from './demo-random';
import { as, clientWrites, fill, must, open, personReplies, pickClient, readCast, type Contact, type Teller } from './demo-teller';
import { categoryOfTopic } from './load-demo-categories';
import { nearlyUseUp } from './load-demo-contracts';
import { billDemoMonths } from './load-demo-money';
import { tellToday } from './load-demo-today';

const SEED = 4711;
const TOPICS: readonly DemoTopic[] = [...DEMO_TOPICS, ...SMALL_TOPICS];
/** In percent: how often it is something that takes more than a few words. */
const MANY_WORDS = 60;
/** So many tickets pass before the same happens again. */
const NOT_AGAIN = 130;
/** Of the first ticket of the story, whatever small work lies before. */
const FIRST_NUMBER = 4001;
/** Numbers that each day keeps free for the small work of that day. */
const SMALL_A_DAY = 60;
const A_DAY = [5, 9] as const;
/** The day before the story's brought more than usual. */
const BUSY_DAY = [44, 52] as const;
/** A time entry is logged before this minute of the day. */
const LAST_MINUTE = 17 * 60;
/** Work that came in since then is often still open. */
const LATELY_SECONDS = 30 * 3600;
/** Some of what is older waits for others. */
const WAITING_SECONDS = 12 * 86_400;

/** Ticket numbers by the day that keeps them free. */
export type FreeNumbers = ReadonlyMap<LocalDate, readonly number[]>;

/**
 * Tells about 90 days of work by the commands that the interface uses, each at its own time.
 * @returns the ticket numbers that each day keeps free for its small work
 */
export async function tellDemoStory(
  tx: Knex.Transaction,
  book: HouseBook,
  { story, days }: { readonly story: Instant; readonly days: number },
): Promise<FreeNumbers> {
  const teller: Teller = {
    tx,
    book,
    story,
    random: new DemoRandom(SEED),
    cast: await readCast(tx),
    busyUntil: new Map(),
    told: [],
    away: await tx('time_off').select('person_id', 'starts_at', 'ends_at'),
  };
  const today = dateOf(story, book.house.zone);
  const free = new Map<LocalDate, readonly number[]>();
  await tx.raw(`select setval('ticket_number', ?)`, [Math.max(1, FIRST_NUMBER - Math.ceil((days * 5) / 7) * SMALL_A_DAY)]);
  for (let date = plusDays(today, -days); date < today; date = plusDays(date, 1)) {
    if (weekdayOf(date) > 5) continue;
    free.set(date, await keepFree(tx));
    const lately = story - instantAt(date, 0, book.house.zone) < LATELY_SECONDS + 86_400;
    const [least, most] = lately ? BUSY_DAY : A_DAY;
    const length = teller.random.whole(least, most);
    const starts = Array.from({ length }, () => instantAt(date, teller.random.whole(8 * 60, 16 * 60), book.house.zone)).sort(
      (a, b) => a - b,
    );
    for (const start of starts) await tellTicket(teller, start);
    // Without fresh statistics the planner reads whole tables for each command.
    if (weekdayOf(date) === 5) await tx.raw('analyze');
  }
  await tellToday(teller, today);
  await nearlyUseUp(tx, book, story);
  await billDemoMonths(tx, book, { story, days });
  return free;
}

async function keepFree(tx: Knex.Transaction): Promise<number[]> {
  const { rows } = await tx.raw(`select nextval('ticket_number')::int as number from generate_series(1, ?)`, [SMALL_A_DAY]);
  return (rows as { number: number }[]).map((r) => r.number);
}

/** What happens now: nothing that happened a short while ago, so that a list shows no subject twice without a reason. */
function pickTopic(teller: Teller, client: string): { topic: DemoTopic; pattern: string } {
  const { random, told } = teller;
  const can = (random.chance(MANY_WORDS) ? DEMO_TOPICS : TOPICS)
    .filter((t) => !t.clients || t.clients.includes(client))
    .flatMap((topic) => topic.subjects.map((pattern) => ({ topic, pattern })));
  const fresh = can.filter(({ pattern }) => !told.slice(-NOT_AGAIN).includes(pattern));
  if (!fresh.length) return pickTopic(teller, client);
  const picked = random.pick(fresh);
  told.push(picked.pattern);
  return picked;
}

/** One ticket from its mail to its end, or as far as it got by the story's now. */
async function tellTicket(teller: Teller, receivedAt: Instant): Promise<void> {
  const { random, book, story } = teller;
  const client = pickClient(teller);
  const { topic, pattern } = pickTopic(teller, client.name);
  const [contact, asset] = [random.pick(client.contacts), random.pick(client.assets)];
  const subject = fill(pattern, contact, asset);
  const ticket = await open(teller, { client, contact, now: receivedAt, subject, text: fill(random.pick(topic.asks), contact, asset) });
  const triagedAt = later(teller, receivedAt, random.whole(2, random.chance(6) ? 40 : 13));
  if (triagedAt > story) return;
  const technician = pickTechnician(teller, topic);
  const triage = {
    kind: topic.kind,
    impact: topic.impact,
    urgency: topic.urgency,
    deskId: teller.cast.desks.find((d) => d.name === (topic.desk ?? 'Support'))!.id,
    line: 'first' as const,
    categoryId: categoryOfTopic(teller.cast.categories, topic.subjects[0]!),
    clientId: client.id,
    contactId: contact.id,
    assetId: random.chance(60) ? asset.id : null,
    assigneeId: random.chance(80) ? technician.id : null,
  };
  must(await triageTicket(as(teller, 'Aoife Brannigan', triagedAt), book, { ticketId: ticket.id, version: undefined, triage }));
  if (topic.kind === 'flat-fee job') {
    const name = FEE_OF_CATEGORY[teller.cast.categories.find((c) => c.id === triage.categoryId)!.name]!;
    const { id } = (await teller.tx('flat_fee').where({ name }).first('id'))!;
    must(
      await setFee(as(teller, 'Aoife Brannigan', triagedAt), book, {
        ticketId: ticket.id,
        choice: { feeId: id, quantity: random.chance(80) ? 1 : 2 },
      }),
    );
  }
  const calm = ['P3', 'P4'].includes(DEFAULT_PRIORITY_MATRIX[topic.impact][topic.urgency]);
  const lately = calm && story - receivedAt < LATELY_SECONDS;
  const answeredAt = Math.min(later(teller, triagedAt, random.whole(5, random.chance(8) ? 420 : 50)), story - 60) as Instant;
  if (answeredAt <= triagedAt) return;
  await personReplies(teller, {
    ticket,
    contact,
    who: technician.name,
    now: answeredAt,
    subject,
    text: fill(random.pick(topic.answers), contact, asset),
  });
  if (lately && random.chance(60)) return;
  const worked = await workOn(teller, { ticketId: ticket.id, name: technician.name, topic, from: answeredAt });
  if (!worked) return;
  if (random.chance(35)) await addNote(as(teller, technician.name, worked), { ticketId: ticket.id, text: topic.note });
  if (lately && random.chance(25)) return;
  if (story - receivedAt < WAITING_SECONDS && random.chance(22)) {
    must(
      await setStatus(as(teller, technician.name, worked), book, {
        ticketId: ticket.id,
        version: undefined,
        to: 'on hold',
        holdReason: random.chance(50) ? 'supplier' : 'client',
      }),
    );
    return;
  }
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
    must(
      await setStatus(as(teller, technician, last), book, { ticketId: ticket.id, version: undefined, to: 'on hold', holdReason: 'client' }),
    );
    last = later(teller, last, random.whole(20, 500));
    if (last > story) return;
    await clientWrites(teller, {
      ticketId: ticket.id,
      contact,
      now: last,
      subject: `Re: ${subject}`,
      text: fill(topic.back, contact, asset),
    });
    must(await setStatus(as(teller, technician, last), book, { ticketId: ticket.id, version: undefined, to: 'queued', holdReason: null }));
    last = later(teller, last, random.whole(4, 60));
    if (last > story) return;
  }
  await personReplies(teller, { ticket, contact, who: technician, now: last, subject, text: fill(topic.ends, contact, asset) });
  await teller.tx('ticket').where({ id: ticket.id }).update({ resolution: topic.note });
  if (topic.kind === 'flat-fee job')
    must(await setFeeResult(as(teller, technician, last), { ticketId: ticket.id, result: 'success', note: topic.note }));
  must(await setStatus(as(teller, technician, last), book, { ticketId: ticket.id, version: undefined, to: 'resolved', holdReason: null }));
  const closes = closesAt(book.house.calendar, last, book.house.tickets.closeAfterDates)!;
  if (closes < story)
    must(
      await setStatus(as(teller, technician, closes), book, { ticketId: ticket.id, version: undefined, to: 'closed', holdReason: null }),
    );
}

/** Minutes of the provider's working time later. */
function later({ book }: Teller, from: Instant, minutes: number): Instant {
  return addWorkingSeconds(book.house.calendar, from, minutes * 60) as Instant;
}

function pickTechnician({ cast, random }: Teller, topic: DemoTopic) {
  const second = topic.desk === 'Security' || topic.minutes[1] > 100;
  return random.pick(cast.people.filter((p) => p.technician && p.role === 'technician' && (p.team === 'Second line') === second));
}

/** Whether somebody is not here at some time of a span: then nothing of theirs is recorded. */
function isAway({ cast, away }: Teller, name: string, span: Interval): boolean {
  const { id } = cast.people.find((p) => p.name === name)!;
  return away.some((a) => a.person_id === id && a.starts_at < span.to && span.from < a.ends_at);
}

/** Records the work after `from`, never beside other work of the same person. Answers with when it ended. */
async function workOn(
  teller: Teller,
  { ticketId, name, topic, from }: { readonly ticketId: string; readonly name: string; readonly topic: DemoTopic; readonly from: Instant },
): Promise<Instant | undefined> {
  const { random, book, busyUntil, story } = teller;
  const minutes = random.whole(...topic.minutes);
  let start = Math.max(Math.ceil(from / 300) * 300, busyUntil.get(name) ?? 0) as Instant;
  if (wallMinuteOf(start, book.house.zone) + minutes > LAST_MINUTE || wallMinuteOf(start, book.house.zone) < 480)
    start = later(teller, instantAt(plusDays(dateOf(start, book.house.zone), 1), 7 * 60, book.house.zone), random.whole(10, 40));
  start = (Math.ceil(start / 300) * 300) as Instant;
  const end = plusSeconds(start, minutes * 60);
  if (end > story || isAway(teller, name, { from: start, to: end })) return undefined;
  busyUntil.set(name, end);
  const activity = teller.cast.activities.find((a) => a.name === topic.activity)!;
  must(
    await addEntry(as(teller, name, end), book, {
      workId: ticketId,
      startsAt: formatInstant(start),
      duration: String(minutes),
      activityId: activity.id,
      note: random.chance(92) ? topic.note : null,
      billable: !random.chance(6),
      reason: 'goodwill',
    }),
  );
  return end;
}
