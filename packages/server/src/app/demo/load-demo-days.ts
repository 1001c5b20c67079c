import type { Knex } from 'knex';
import {
  dateOf,
  plusDays,
  plusSeconds,
  subtract,
  unite,
  weekdayOf,
  type Instant,
  type Interval,
  type LocalDate,
  type Zone,
} from '@core/ground';
import type { HouseBook } from '../../house/house/house-book';
import { readWork, spanOfDates } from '../../house/people/read-work';
import { at, type Columns } from '../database';
import { DemoRandom } from './demo-random';

const WEEKS = 13;
const MINUTE = 60;
const STEP = 300;
/** What somebody does in one go, and what is left too short to write down. */
const PIECE = [20, 95] as const;
const LEAST = 10;
/** In percent: how much of the day is on tickets, and how often something is forgotten. */
const ON_TICKETS = 80;
const FORGOTTEN = 7;
/** A ticket is worked on for so many days after it came in. */
const FRESH_DAYS = 9;

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

/** Fills the weeks before the story's as people fill them: work that the monthly fees pay for, and work of the house's own. */
export async function loadDemoDays(tx: Knex.Transaction, book: HouseBook, story: Instant, zone: Zone, days: number): Promise<void> {
  const today = dateOf(story, zone);
  const monday = plusDays(today, 1 - weekdayOf(today));
  const first = [plusDays(monday, -7 * WEEKS), plusDays(today, -days)].sort().at(-1)!;
  const people: Columns[] = await tx('person')
    .where({ technician: true })
    .whereNotNull('grade_id')
    .orderBy('name')
    .select('id', 'grade_id');
  const span = spanOfDates(book, first, monday);
  const work = await readWork(
    tx,
    book,
    people.map((p) => p['id']),
    [first, monday],
  );
  const taken: Columns[] = await tx('time_entry')
    .whereNull('removed_at')
    .where('starts_at', '<', at(span.to))
    .where('ends_at', '>', at(span.from))
    .select('person_id', 'starts_at', 'ends_at');
  const tickets: Columns[] = await tx('ticket')
    .whereNotNull('client_id')
    .whereNotIn('kind', ['unsorted', 'flat-fee job'])
    .whereNotNull('assignee_id')
    .orderBy(['received_at', 'id'])
    .select('id', 'client_id', 'assignee_id', 'received_at', 'closed_at');
  const internal = await addInternalWork(tx);
  const activities: Columns[] = await tx('activity').whereIn('name', ['remote', 'workshop']).orderBy('position').select('id');
  const random = new DemoRandom(61);
  const rows: Columns[] = [];
  for (let day: LocalDate = first; day < monday; day = plusDays(day, 1))
    for (const person of people) {
      const own = work.get(person['id'])!;
      const span = spanOfDates(book, day, plusDays(day, 1));
      const free = own.working.filter((w) => w.from < span.to && span.from < w.to);
      const busy: Interval[] = [
        ...own.away,
        ...taken.filter((t) => t['person_id'] === person['id']).map((t) => ({ from: t['starts_at'], to: t['ends_at'] })),
      ];
      for (const gap of subtract(unite(free), unite(busy)))
        for (const piece of piecesOf(gap, random)) {
          const common = {
            person_id: person['id'],
            grade_id: person['grade_id'],
            starts_at: at(piece.from),
            ends_at: at(piece.to),
            minutes: (piece.to - piece.from) / MINUTE,
            billable: false,
          };
          const ticket = random.chance(ON_TICKETS) ? ticketFor(tickets, person['id'], piece, random) : undefined;
          const activity_id = activities[random.chance(88) ? 0 : 1]!['id'];
          rows.push(
            ticket
              ? {
                  ...common,
                  activity_id,
                  work_id: ticket['id'],
                  client_id: ticket['client_id'],
                  note: random.pick(TICKET_NOTES),
                  reason: 'in the monthly fee',
                }
              : { ...common, activity_id, client_id: null, ...pickInternal(internal, random), reason: 'internal' },
          );
        }
    }
  await tx.batchInsert('time_entry', rows as Record<string, string>[], 500);
}

/** A gap in pieces on full five minutes, some of it forgotten. */
function piecesOf(gap: Interval, random: DemoRandom): Interval[] {
  const pieces: Interval[] = [];
  let from = (Math.ceil(gap.from / STEP) * STEP) as Instant;
  while (gap.to - from >= LEAST * MINUTE) {
    const wanted = random.whole(PIECE[0] / 5, PIECE[1] / 5) * STEP;
    const to = Math.min(from + wanted, Math.floor(gap.to / STEP) * STEP) as Instant;
    if (to <= from) break;
    if (!random.chance(FORGOTTEN)) pieces.push({ from, to });
    from = plusSeconds(to, 0);
  }
  return pieces;
}

/** A ticket of theirs that was fresh then, else of anybody's. */
function ticketFor(tickets: readonly Columns[], personId: string, { from, to }: Interval, random: DemoRandom): Columns | undefined {
  const fresh = tickets.filter(
    (t) => t['received_at'] <= from && t['received_at'] > from - FRESH_DAYS * 86_400 && (t['closed_at'] === null || t['closed_at'] >= to),
  );
  const own = fresh.filter((t) => t['assignee_id'] === personId);
  const among = own.length && random.chance(85) ? own : fresh;
  return among.length ? random.pick(among) : undefined;
}

async function addInternalWork(tx: Knex.Transaction): Promise<ReadonlyMap<string, string>> {
  const there: Columns[] = await tx('internal_work').select('id', 'name');
  const missing = INTERNAL.filter((i) => !there.some((t) => t['name'] === i.name)).map(({ name }) => ({ name }));
  const added: Columns[] = missing.length ? await tx('internal_work').insert(missing).returning(['id', 'name']) : [];
  return new Map([...there, ...added].map((w) => [w['name'], w['id']]));
}

function pickInternal(ids: ReadonlyMap<string, string>, random: DemoRandom): { work_id: string; note: string } {
  let left = random.whole(
    1,
    INTERNAL.reduce((sum, i) => sum + i.weight, 0),
  );
  const picked = INTERNAL.find((i) => (left -= i.weight) <= 0)!;
  return { work_id: ids.get(picked.name)!, note: random.pick(picked.notes) };
}
