import type { Knex } from 'knex';
import { dateOf, plusDays, subtract, unite, weekdayOf, type Instant, type Interval, type LocalDate, type Zone } from '@core/ground';
import type { HouseBook } from '../../house/house/house-book';
import { readWork, spanOfDates } from '../../house/people/read-work';
import { at } from '../database';
import { DEMO_CONTRACTS } from './demo-contracts';
import { DemoRandom } from './demo-random';
import { readCast } from './demo-teller';
import { type ClientOf, SmallTickets } from './load-demo-small-work';
import type { FreeNumbers } from './load-demo-work';

const WEEKS = 13;
const MINUTE = 60;
const STEP = 300;
/** What somebody does in one go, and what is left too short to write down. */
/** Minutes of what somebody does in one go, on a ticket and on work of the house; shorter gaps are not written down. */
const PIECES = { ticket: [10, 45], internal: [25, 100] } as const;
const LEAST = 10;
/** In percent: how often the next work is a ticket's, one of theirs of that day, and how often something is forgotten. */
const ON_TICKETS = 74;
const GOES_ON = 45;
const FORGOTTEN = 7;

const TICKET_NOTES = [
  'Went through it with the user on the phone, works again.',
  'Read the logs, nothing since the restart.',
  'Compared with the other machine of the same kind.',
  'Waited for the update to finish, then tested with them.',
  'Wrote down what was changed and where.',
  'Looked at the settings with the supplier.',
  'Second try after the call, this time with the cable swapped.',
  'Set it up again from the image and put the files back.',
  'Checked the backup of last night before touching anything.',
  'Rang back, asked for a picture of the screen.',
  'Cleaned up old profiles, freed 40 GB.',
  'Watched it for a while, no drop any more.',
] as const;
const INTERNAL: readonly { readonly name: string; readonly weight: number; readonly notes: readonly string[] }[] = [
  {
    name: 'Monitoring and updates',
    weight: 46,
    notes: [
      'Morning round of alerts',
      'Update round, second group',
      'Backups looked through, two run again',
      'Certificates that end next month',
    ],
  },
  {
    name: 'Documentation',
    weight: 22,
    notes: ['Site plans brought up to date', 'How to swap a till drawer, with pictures', 'Passwords moved to the new safe'],
  },
  { name: 'Training', weight: 14, notes: ['Course on phone switches', 'Exam practice', 'Showed Odalys the tills'] },
  { name: 'Vans and stock', weight: 10, notes: ['Van cleared out and filled', 'Counted the toner shelf'] },
  { name: 'Administration', weight: 8, notes: ['Mail and planning', 'Expenses and paper'] },
];

export interface DaysToFill {
  readonly story: Instant;
  readonly zone: Zone;
  readonly days: number;
  readonly free: FreeNumbers;
}

/** Fills the days before the story's as people fill them: small tickets that the monthly fees pay for, and work of the house's own. */
export async function loadDemoDays(tx: Knex.Transaction, book: HouseBook, { story, zone, days, free }: DaysToFill): Promise<void> {
  const today = dateOf(story, zone);
  const monday = plusDays(today, 1 - weekdayOf(today));
  const first = [plusDays(monday, -7 * WEEKS), plusDays(today, -days)].sort().at(-1)!;
  const people: Person[] = await tx('person')
    .where({ technician: true })
    .whereNotNull('grade_id')
    .orderBy('name')
    .select('id', 'name', 'grade_id');
  const span = spanOfDates(book, first, today);
  const work = await readWork(tx, book, { personIds: people.map((p) => p.id), dates: [first, today] });
  const taken: { person_id: string; starts_at: Instant; ends_at: Instant }[] = await tx('time_entry')
    .whereNull('removed_at')
    .where('starts_at', '<', at(span.to))
    .where('ends_at', '>', at(span.from))
    .select('person_id', 'starts_at', 'ends_at');
  const clients: ClientOf[] = await tx('client').select('id', 'division_id', 'calendar_id');
  const names = DEMO_CONTRACTS.filter((c) => c.smallWork).map((c) => c.form.name);
  const held = new Set<string>(await tx('contract').whereIn('name', names).pluck('client_id'));
  const random = new DemoRandom(61);
  const tickets = new SmallTickets({ book, cast: await readCast(tx), clients, story, random });
  const internal = await addInternalWork(tx);
  const activities: string[] = await tx('activity').whereIn('name', ['remote', 'workshop']).orderBy('position').pluck('id');
  const rows: object[] = [];
  for (let day: LocalDate = first; day < today; day = plusDays(day, 1)) {
    const numbers = [...(free.get(day) ?? [])];
    for (const person of people) {
      const own = work.get(person.id)!;
      const within = spanOfDates(book, day, plusDays(day, 1));
      const open = own.working.filter((w) => w.from < within.to && within.from < w.to);
      const busy = [...own.away, ...taken.filter((t) => t.person_id === person.id).map((t) => ({ from: t.starts_at, to: t.ends_at }))];
      const { small, house } = workOfDay(subtract(unite(open), unite(busy)), numbers, random);
      const entry = ({ from, to }: Interval) => ({
        person_id: person.id,
        grade_id: person.grade_id,
        starts_at: at(from),
        ends_at: at(to),
        minutes: (to - from) / MINUTE,
        billable: false,
        activity_id: activities[random.chance(88) ? 0 : 1]!,
      });
      for (const { number, pieces } of small) {
        const ticket = tickets.add({ person, number, from: pieces[0]!.from, to: pieces.at(-1)!.to });
        // What a contract holds is billable and drawn of it; else nobody would pay for it by the piece.
        const isHeld = ticket.clientId !== null && held.has(ticket.clientId);
        const how = isHeld ? { billable: true, reason: null } : { reason: 'in the monthly fee' };
        const same = { work_id: ticket.id, client_id: ticket.clientId, ...how };
        rows.push(
          ...pieces.map((p, n) => ({ ...entry(p), ...same, note: n === pieces.length - 1 ? ticket.note : random.pick(TICKET_NOTES) })),
        );
      }
      rows.push(...house.map((p) => ({ ...entry(p), client_id: null, ...pickInternal(internal, random), reason: 'internal' })));
    }
  }
  await tickets.write(tx);
  await tx.batchInsert('time_entry', rows as Record<string, string>[], 500);
}

interface Person {
  readonly id: string;
  readonly name: string;
  readonly grade_id: string;
}

interface WorkOfDay {
  readonly small: { readonly number: number; readonly pieces: Interval[] }[];
  readonly house: Interval[];
}

/** What somebody did in the gaps of a day, on full five minutes, some of it forgotten; takes the numbers of its tickets. */
function workOfDay(gaps: readonly Interval[], numbers: number[], random: DemoRandom): WorkOfDay {
  const done: WorkOfDay = { small: [], house: [] };
  for (const gap of gaps) {
    let from = (Math.ceil(gap.from / STEP) * STEP) as Instant;
    while (gap.to - from >= LEAST * MINUTE) {
      const last = done.small.at(-1);
      const goesOn = last && random.chance(GOES_ON);
      const isTicket = random.chance(ON_TICKETS) && (goesOn || numbers.length > 0);
      const [least, most] = PIECES[isTicket ? 'ticket' : 'internal'];
      const wanted = random.whole(least / 5, most / 5) * STEP;
      const to = Math.min(from + wanted, Math.floor(gap.to / STEP) * STEP) as Instant;
      if (to <= from) break;
      if (!random.chance(FORGOTTEN)) {
        if (!isTicket) done.house.push({ from, to });
        else if (goesOn) last.pieces.push({ from, to });
        else done.small.push({ number: numbers.shift()!, pieces: [{ from, to }] });
      }
      from = to;
    }
  }
  return done;
}

async function addInternalWork(tx: Knex.Transaction): Promise<ReadonlyMap<string, string>> {
  const there: { id: string; name: string }[] = await tx('internal_work').select('id', 'name');
  const missing = INTERNAL.filter((i) => !there.some((t) => t.name === i.name)).map(({ name }) => ({ name }));
  const added: { id: string; name: string }[] = missing.length ? await tx('internal_work').insert(missing).returning(['id', 'name']) : [];
  return new Map([...there, ...added].map((w) => [w.name, w.id]));
}

function pickInternal(ids: ReadonlyMap<string, string>, random: DemoRandom): { work_id: string; note: string } {
  let left = random.whole(
    1,
    INTERNAL.reduce((sum, i) => sum + i.weight, 0),
  );
  const picked = INTERNAL.find((i) => (left -= i.weight) <= 0)!;
  return { work_id: ids.get(picked.name)!, note: random.pick(picked.notes) };
}
