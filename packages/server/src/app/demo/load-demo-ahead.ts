import type { Knex } from 'knex';
import {
  dateOf,
  formatInstant,
  type Instant,
  instantAt,
  type Interval,
  plusDays,
  plusSeconds,
  subtract,
  unite,
  weekdayOf,
} from '@core/ground';
import { triageTicket } from '../../desk/tickets/triage-ticket';
import type { HouseBook } from '../../house/house/house-book';
import { readWork, spanOfDates } from '../../house/people/read-work';
import { bookWork } from '../../scheduling/dispatch/book-work';
import { DemoRandom } from './demo-random';
import { as, type Cast, fill, must, open, personReplies, pickClient, readCast, type Teller } from './demo-teller';

/** Work that is agreed for a day: what it is, its category, and whether somebody goes there. */
const PLANNED: readonly (readonly [subject: string, category: string, onSite: boolean])[] = [
  ['Swap of the switch at {site}', 'Connections', true],
  ['Second access point for {site}', 'Connections', true],
  ['Move of two desks at {site}', 'Computers and screens', true],
  ['Quarterly look at the servers', 'Servers and storage', false],
  ['Trial restore of the archive', 'Servers and storage', false],
  ['New card reader for the side door, {site}', 'Doors and sensors', true],
  ['Phones for the new room at {site}', 'Phones', true],
  ['Everyone to the newer mail program', 'Mail and calendar', false],
  ['Old shares to be tidied with the office manager', 'Files', false],
  ['Till update outside opening hours', 'Tills and hand scanners', false],
  ['Six tablets set up and handed over at {site}', 'Tablets', true],
  ['Labels and cables in the cabinet at {site}', 'Connections', true],
  ['Second screen for the whole front desk at {site}', 'Computers and screens', true],
  ['Scanner templates for accounts', 'Printing and scanning', false],
  ['Code by phone for all who travel', 'Signing in', false],
];
const INTERNAL = ['Monitoring and updates', 'Documentation', 'Training', 'Vans and stock'];
/** Where nobody drives for an hour's work. */
const FAR: readonly string[] = ['Ostrand Observatory Trust'];
const DAYS_AHEAD = 6;
const QUARTER = 900;
const MINUTE = 60;
const LENGTHS = [60, 90, 120, 150] as const;
const LEAST = 60;
/** Minutes of a visit with its ways, and of the way there and back. */
const [VISIT, WAY] = [120, 30];
/** In percent: how much of a day ahead is booked, and how much of that is for a client while there is such work. */
const BOOKED = 66;
const FOR_CLIENTS = 62;
const TICKETS = 48;

/** The days ahead, booked to about half: work that was agreed with clients, and work of the house's own. */
export async function loadDemoAhead(tx: Knex.Transaction, book: HouseBook, story: Instant): Promise<void> {
  const random = new DemoRandom(71);
  const teller: Teller = { tx, book, story, random, cast: await readCast(tx), busyUntil: new Map(), told: [], away: [] };
  const planned = await openPlanned(teller);
  const internal: string[] = await tx('internal_work').whereIn('name', INTERNAL).orderBy('name').pluck('id');
  const people = teller.cast.people.filter((p) => p.technician && p.role === 'technician');
  const [first, last] = [plusDays(dateOf(story, book.house.zone), 1), plusDays(dateOf(story, book.house.zone), DAYS_AHEAD)];
  const work = await readWork(tx, book, { personIds: people.map((p) => p.id), dates: [first, plusDays(last, 1)] });
  const shifts: { personId: string; slot: Interval }[] = [];
  for (let day = first; day <= last; day = plusDays(day, 1)) {
    if (weekdayOf(day) > 5) continue;
    const within = spanOfDates(book, day, plusDays(day, 1));
    for (const person of people) {
      const { working, away } = work.get(person.id)!;
      const gaps = subtract(unite(working.filter((w) => w.from < within.to && within.from < w.to)), unite(away));
      shifts.push(...gaps.flatMap((gap) => slotsOf(gap, random).map((slot) => ({ personId: person.id, slot }))));
    }
  }
  for (const { personId, slot: all } of shifts) {
    const ticket = random.chance(FOR_CLIENTS) ? planned.find((p) => !p.onSite || all.to - all.from >= VISIT * MINUTE) : undefined;
    if (ticket) planned.splice(planned.indexOf(ticket), 1);
    const slot = ticket?.onSite ? { from: plusSeconds(all.from, WAY * MINUTE), to: plusSeconds(all.to, -WAY * MINUTE) } : all;
    must(
      await bookWork(as(teller, 'Tomasz Wieland', plusSeconds(story, -30 * MINUTE)), book, {
        workId: ticket?.id ?? random.pick(internal),
        asked: {
          personId,
          startsAt: formatInstant(slot.from),
          minutes: (slot.to - slot.from) / MINUTE,
          onSite: ticket?.onSite ?? false,
        },
      }),
    );
  }
}

/** About half of a gap, in pieces on full quarters of an hour. */
function slotsOf(gap: Interval, random: DemoRandom): Interval[] {
  const slots: Interval[] = [];
  let from = (Math.ceil(gap.from / QUARTER) * QUARTER) as Instant;
  while (gap.to - from >= LEAST * MINUTE) {
    const to = Math.min(from + random.pick(LENGTHS) * MINUTE, Math.floor(gap.to / QUARTER) * QUARTER) as Instant;
    if (random.chance(BOOKED)) slots.push({ from, to });
    from = to;
  }
  return slots;
}

interface Planned {
  readonly id: string;
  readonly onSite: boolean;
}

/** What was agreed lately, each routed and waiting for its day. */
async function openPlanned(teller: Teller): Promise<Planned[]> {
  const planned: Planned[] = [];
  const subjects = new Set<string>();
  for (let n = 0; n < TICKETS; n++) {
    const { random, story, book, cast } = teller;
    const [pattern, category, onSite] = PLANNED[n % PLANNED.length]!;
    let client = pickClient(teller);
    while (onSite && FAR.includes(client.name)) client = pickClient(teller);
    const contact = random.pick(client.contacts);
    const subject = fill(pattern, contact, undefined);
    if (subjects.has(subject)) continue;
    subjects.add(subject);
    const yesterday = instantAt(plusDays(dateOf(story, book.house.zone), -1), 8 * 60 + 20 + n * 11, book.house.zone);
    const text = `Hello,\n\nas agreed on the phone: ${subject}. Any day this week suits us, mornings are best.\n\nKind regards\n${contact.name.split(' ')[0]}`;
    const ticket = await open(teller, { client, contact, now: yesterday, subject, text });
    must(
      await triageTicket(as(teller, 'Aoife Brannigan', plusSeconds(yesterday, 9 * MINUTE)), book, {
        ticketId: ticket.id,
        version: undefined,
        triage: planOf(cast, { category, client, contact }),
      }),
    );
    await personReplies(teller, {
      ticket,
      contact,
      who: 'Tomasz Wieland',
      now: plusSeconds(yesterday, 31 * MINUTE),
      subject,
      text: `Hello ${contact.name.split(' ')[0]},\n\nthank you, that is noted. You will hear the day and the hour from me by tomorrow noon.\n\nTomasz`,
    });
    planned.push({ id: ticket.id, onSite });
  }
  return planned;
}

interface PlanOf {
  readonly category: string;
  readonly client: Cast['clients'][number];
  readonly contact: { readonly id: string };
}

function planOf(cast: Cast, { category, client, contact }: PlanOf) {
  return {
    kind: 'service request',
    impact: 'one',
    urgency: 'can wait',
    deskId: cast.desks.find((d) => d.name === 'Support')!.id,
    line: 'first',
    categoryId: cast.categories.find((c) => c.name === category)!.id,
    clientId: client.id,
    contactId: contact.id,
    assetId: null,
    assigneeId: null,
  } as const;
}
