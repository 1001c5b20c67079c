import type { OverrunWire } from '@core/scheduling';
import { type Instant, formatInstant, naming, plusSeconds, sayWork } from '@core/ground';
import type { App } from '../../app/app';
import { at, type Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { byJob } from '../../app/actor';
import { transact } from '../../app/work';
import { namedWork } from '../../ground';
import { type HouseBook, tellPerson } from '../../house';
import { findWorkFits } from './find-fits';
import { minutesOf } from '../dispatch/change-booking';
import { readOneBookable } from '../dispatch/read-unbooked';

const JOB = byJob('dispatch');
/** Work that goes on this long before the next booking begins will not be over in time. */
const AHEAD_SECONDS = 20 * 60;
const MOST_PROPOSALS = 3;

/** Bookings whose time is up, that are still worked on, with the next of the same technician, which is near. */
function overrunning(db: Db, now: Instant) {
  return db('booking as b')
    .joinRaw(
      `join lateral (select n.id from booking n where n.person_id = b.person_id and n.state = 'planned' and n.id <> b.id and n.starts_at >= b.starts_at
         and n.starts_at < ? order by n.starts_at limit 1) n on true`,
      [at(plusSeconds(now, AHEAD_SECONDS))],
    )
    .whereIn('b.state', ['planned', 'underway'])
    .where('b.ends_at', '<', at(now))
    .where('b.ends_at', '>', at(plusSeconds(now, -86_400)))
    .whereExists(
      db('timer as r').whereRaw('r.person_id = b.person_id and r.work_id = b.work_id').whereNotNull('r.running_since').select(db.raw('1')),
    );
}

/** Job: warns dispatch of each booking that runs into the next, once. */
export async function watchBookings(app: App): Promise<void> {
  const now = app.clock.now();
  const found: { readonly id: string; readonly next: string }[] = await overrunning(app.knex, now)
    .whereNotExists(app.knex('overrun as o').whereRaw('o.booking_id = b.id').select(app.knex.raw('1')))
    .select('b.id', 'n.id as next');
  if (!found.length) return;
  await transact(app, { now, actor: JOB }, async (work) => {
    for (const { id, next } of found) {
      const [row] = await work
        .tx('overrun')
        .insert({ booking_id: id, collides_with: next, found_at: at(now) })
        .onConflict('booking_id')
        .ignore()
        .returning('booking_id');
      if (!row) continue;
      const b: Row<'work_facts', 'number' | 'subject'> & Row<'booking', 'ticket_id'> & Row<'person', 'name'> = await work
        .tx('booking as b')
        .join('work_facts as w', 'w.id', 'b.work_id')
        .join('person as p', 'p.id', 'b.person_id')
        .where('b.id', id)
        .first('w.number', 'w.subject', 'b.ticket_id', 'p.name');
      const people = await work.tx('person').whereIn('role', ['dispatcher', 'service manager']).where({ active: true }).select('id');
      const text = `${b.name} is over on ${sayWork(b)}; the next booking begins soon. Dispatch has proposals.`;
      for (const person of people) await tellPerson(work, { personId: person.id, text, ticketId: b.ticket_id, urgent: true });
      await work.emit('booking', id);
    }
    return {};
  });
}

type OverrunRow = Row<'booking', 'id' | 'work_id' | 'work_kind' | 'person_id' | 'ends_at'> &
  Row<'work_facts', 'number' | 'subject'> &
  Row<'person', 'name'> & { readonly next: string };

/** What runs into the next booking now and nobody has seen to, each with where the next could go. */
export async function readOverruns(db: Db, book: HouseBook, now: Instant): Promise<OverrunWire[]> {
  const rows: OverrunRow[] = await overrunning(db, now)
    .join('overrun as o', 'o.booking_id', 'b.id')
    .whereNull('o.settled_at')
    .join('work_facts as w', 'w.id', 'b.work_id')
    .join('person as p', 'p.id', 'b.person_id')
    .orderBy('b.ends_at')
    .limit(10)
    .select('b.id', 'b.work_id', 'b.work_kind', 'b.person_id', 'b.ends_at', 'w.number', 'w.subject', 'p.name', 'n.id as next');
  return Promise.all(rows.map((row) => overrunWire(db, book, { row, now })));
}

async function overrunWire(
  db: Db,
  book: HouseBook,
  { row, now }: { readonly row: OverrunRow; readonly now: Instant },
): Promise<OverrunWire> {
  const next = (await db('booking').where({ id: row.next }).first())!;
  const work = (await readOneBookable(db, next.work_id))!;
  const fits = await findWorkFits(db, book, { work, days: 2, now, minutes: minutesOf(next) });
  const own = fits.filter((f) => f.personId === row.person_id).sort((a, b) => a.slot.from - b.slot.from);
  const others = fits
    .filter((f) => f.personId !== row.person_id)
    .sort((a, b) => Math.abs(a.slot.from - next.starts_at) - Math.abs(b.slot.from - next.starts_at) || b.fit.points - a.fit.points);
  return {
    bookingId: row.id,
    ...namedWork(row),
    technician: row.name,
    endedAt: formatInstant(row.ends_at),
    next: {
      bookingId: next.id,
      version: next.version,
      ...naming(work),
      client: work.client,
      startsAt: formatInstant(next.starts_at),
      minutes: minutesOf(next),
    },
    proposals: [
      ...others.slice(0, MOST_PROPOSALS - 1).map((f) => ({ how: 'hand over' as const, f })),
      ...own.slice(0, 1).map((f) => ({ how: 'move' as const, f })),
    ].map(({ how, f }) => ({
      how,
      personId: f.personId,
      person: f.person,
      startsAt: formatInstant(f.slot.from),
      says: f.fit.says,
      why: f.fit.why,
    })),
  };
}
