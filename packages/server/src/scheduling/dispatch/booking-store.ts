import { randomUUID } from 'node:crypto';
import { dateOf, type Id, type Instant, type Interval, type Outcome, parseInstant, plusSeconds, refuse } from '@core/ground';
import { at } from '../../app/database';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house';
import { settleTravel } from '../travel/read-travel';

/** When and with whom work is booked, and how. */
export interface Slot {
  readonly personId: Id<'person'> | null;
  readonly startsAt: string;
  readonly minutes: number;
  readonly onSite?: boolean | undefined;
  readonly tentative?: boolean | undefined;
  readonly fixed?: boolean | undefined;
  readonly bring?: string | null | undefined;
}

export function spanOf(slot: { readonly startsAt: string; readonly minutes: number }): Interval {
  const from = parseInstant(slot.startsAt);
  return { from, to: plusSeconds(from, slot.minutes * 60) };
}

export async function technicianName(work: Work, personId: Id<'person'> | null): Promise<Outcome<string>> {
  if (!personId) return 'no technician yet';
  const person = await work.tx('person').where({ id: personId, technician: true, active: true }).first('name');
  return person
    ? (person.name as string)
    : refuse('invalid', 'There is no such technician.', { personId: 'choose one of the technicians' });
}

/** Bookings that belong together. */
export interface Together {
  readonly crewId?: string | null;
  readonly seriesId?: string | null;
  readonly openingSetId?: string;
}

/** Writes a booking with the ways around it, and that it was booked. */
export async function insertBooking(
  work: Work,
  book: HouseBook,
  {
    workId,
    slot,
    span,
    together = {},
  }: { readonly workId: Id<'work'>; readonly slot: Slot; readonly span: Interval; readonly together?: Together },
) {
  const times = { starts_at: at(span.from), ends_at: at(span.to) };
  const [row] = await work
    .tx('booking')
    .insert({
      id: randomUUID(),
      work_id: workId,
      person_id: slot.personId,
      ...times,
      planned_starts_at: times.starts_at,
      planned_ends_at: times.ends_at,
      on_site: slot.onSite ?? false,
      tentative: slot.tentative ?? false,
      fixed: slot.fixed ?? false,
      bring: slot.bring ?? null,
      crew_id: together.crewId ?? null,
      series_id: together.seriesId ?? null,
      opening_set_id: together.openingSetId ?? null,
    })
    .returning(['id', 'version']);
  await keepChange(work, row!.id, 'booked');
  await settleDays(work, book, [[slot.personId, span.from]]);
  return row as { id: Id<'booking'>; version: number };
}

/** What happened to a booking and how it stands after; nothing of it is ever taken away. */
export async function keepChange(work: Work, bookingId: Id<'booking'>, what: string): Promise<void> {
  const row: Row<'booking', 'person_id' | 'starts_at' | 'ends_at'> = await work
    .tx('booking')
    .where({ id: bookingId })
    .first('person_id', 'starts_at', 'ends_at');
  await work.tx('booking_change').insert({
    booking_id: bookingId,
    at: at(work.now),
    by_id: work.actor.personId,
    what,
    person_id: row.person_id,
    starts_at: at(row.starts_at),
    ends_at: at(row.ends_at),
  });
}

/** Lays the ways of some people's days anew, each day once. */
export async function settleDays(work: Work, book: HouseBook, touched: readonly (readonly [string | null, Instant])[]): Promise<void> {
  const days = new Map(touched.map(([personId, instant]) => [`${personId} ${dateOf(instant, book.house.zone)}`, { personId, instant }]));
  for (const { personId, instant } of days.values()) await settleTravel(work, book, { personId, day: dateOf(instant, book.house.zone) });
}
