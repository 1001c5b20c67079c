import { workingTime } from '@core/house';
import { type Id, instantAt, type Interval, type LocalDate, plusDays } from '@core/ground';
import { at, type Db } from '../../app/database';
import type { Row } from '../../app/rows';
import type { HouseBook } from '../house/house-book';
import { publicHolidays } from './public-holidays';

/** Somebody's time over a span of dates. */
export interface WorkOf {
  readonly working: readonly Interval[];
  /** Time off, with what it is. */
  readonly away: readonly (Interval & { readonly what: string })[];
  /** Appointments of calendars read in, each by its calendar's name, and bookings in divisions that are not seen: expected time stays, but nothing is put there. */
  readonly busy: readonly (Interval & { readonly what: string })[];
  readonly holidays: Readonly<Record<string, string>>;
}

/** An appointment of a calendar that was read in, and whose. */
type AppointmentOf = Row<'outside_appointment', 'starts_at' | 'ends_at'> & Row<'outside_calendar', 'person_id' | 'name'>;

/** When people work and when they are away, over the dates from `from` up to but not including `to`. */
export async function readWork(
  db: Db,
  book: HouseBook,
  { personIds, dates: [from, to] }: { readonly personIds: readonly Id<'person'>[]; readonly dates: readonly [LocalDate, LocalDate] },
): Promise<ReadonlyMap<string, WorkOf>> {
  const { zone } = book.house;
  const span: Interval = spanOfDates(book, from, to);
  const [people, shifts, off, outside, elsewhere, house] = await Promise.all([
    db('person as p')
      .leftJoin('person_hours as h', 'h.person_id', 'p.id')
      .whereIn('p.id', personIds)
      .select('p.id', 'h.week', 'p.holiday_region'),
    db('shift').whereIn('person_id', personIds).where('day', '>=', from).where('day', '<', to).select('person_id', 'day', 'hours'),
    db('time_off').whereIn('person_id', personIds).where('starts_at', '<', at(span.to)).where('ends_at', '>', at(span.from)),
    db('outside_appointment as a')
      .join('outside_calendar as c', 'c.id', 'a.calendar_id')
      .whereIn('c.person_id', personIds)
      .where('a.starts_at', '<', at(span.to))
      .where('a.ends_at', '>', at(span.from))
      .orderBy('a.starts_at')
      .select('c.person_id', 'c.name', 'a.starts_at', 'a.ends_at'),
    readElsewhere(db, personIds, span),
    db('provider').first('holiday_region'),
  ]);
  return new Map(
    people.map((p: Row<'person', 'holiday_region' | 'id'> & { readonly week: unknown }): [string, WorkOf] => {
      const holidays = publicHolidays(p.holiday_region ?? house!.holiday_region, from, plusDays(to, -1));
      const own = shifts.filter((s: Row<'shift', 'person_id'>) => s.person_id === p.id);
      const pattern = {
        zone,
        week: (p.week ?? Array<string[]>(7).fill([])) as string[][],
        shifts: Object.fromEntries(own.map((s: Row<'shift', 'day' | 'hours'>) => [s.day, s.hours])),
        holidays,
      };
      const away = off.filter((o) => o.person_id === p.id).map((o) => ({ from: o.starts_at, to: o.ends_at, what: o.reason }));
      const busy = outside
        .filter((o: AppointmentOf) => o.person_id === p.id)
        .map((o: AppointmentOf) => ({
          from: o.starts_at,
          to: o.ends_at,
          what: `busy: ${o.name}`,
        }));
      const other = elsewhere.filter((b) => b.person_id === p.id);
      busy.push(...other.map((b) => ({ from: b.starts_at, to: b.ends_at, what: 'busy: another division' })));
      return [p.id, { working: workingTime(pattern, from, to), away, busy, holidays }];
    }),
  );
}

/** Who sees some divisions alone sees when people are booked in others, and nothing else of it. */
async function readElsewhere(
  db: Db,
  personIds: readonly Id<'person'>[],
  span: Interval,
): Promise<Row<'booking', 'person_id' | 'starts_at' | 'ends_at'>[]> {
  const found = await db.raw('select * from booked_elsewhere(?::uuid[], ?, ?)', [[...personIds], at(span.from), at(span.to)]);
  return found.rows;
}

/** From the first midnight to the last, by the house's zone. */
export function spanOfDates(book: HouseBook, from: LocalDate, to: LocalDate): Interval {
  return { from: instantAt(from, 0, book.house.zone), to: instantAt(to, 0, book.house.zone) };
}
