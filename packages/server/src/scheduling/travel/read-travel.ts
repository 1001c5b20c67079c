import { pairOf, travelOfDay, type KnownTravel, type Place } from '@core/scheduling';
import { dateOf, type Id, instantAt, type LocalDate, plusDays } from '@core/ground';
import { at, type Db } from '../../app/database';
import type { Joined, Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { degrees } from '../../clients';
import { siteOf } from '../../desk';
import type { HouseBook } from '../../house';

/** What is known of travel better than by coordinates. */
export async function readKnownTravel(db: Db): Promise<KnownTravel> {
  const rows = await db('travel_time').select('place_a', 'place_b', 'minutes');
  return new Map(rows.map((r) => [pairOf(r.place_a, r.place_b), r.minutes as number]));
}

/** A site as a place, or null where there is none. */
export function placeOf(id: string | null, latitude: string | null, longitude: string | null): Place | null {
  return id === null ? null : { id, latitude: degrees(latitude), longitude: degrees(longitude) };
}

/** Where people's days begin, for those of whom it is known. */
export async function readStarts(db: Db, personIds: readonly Id<'person'>[]): Promise<ReadonlyMap<string, Place>> {
  const rows = await db('person').whereIn('id', personIds).whereNotNull('home_latitude').select('id', 'home_latitude', 'home_longitude');
  return new Map(rows.map((r) => [r.id, placeOf(r.id, r.home_latitude, r.home_longitude)!]));
}

/** Where the work of a ticket is. */
export async function readPlaceOfTicket(db: Db, workId: Id<'work'>): Promise<Place | null> {
  const row: Row<'site', 'id' | 'latitude' | 'longitude'> | undefined = await db('ticket as t')
    .joinRaw(`join site as s on s.id = ${siteOf('t')}`)
    .where('t.id', workId)
    .first('s.id', 's.latitude', 's.longitude');
  return row ? placeOf(row.id, row.latitude, row.longitude) : null;
}

/** Lays the ways of a technician's day anew, after a booking of it came, went or moved. */
export async function settleTravel(
  work: Work,
  book: HouseBook,
  { personId, day }: { readonly personId: Id<'person'> | null; readonly day: LocalDate },
): Promise<void> {
  if (!personId) return;
  const { zone } = book.house;
  const rows: (Row<'booking', 'id' | 'travel_before' | 'travel_after'> &
    Joined<'site', 'latitude' | 'longitude'> & { readonly site: string | null })[] = await work
    .tx('booking as b')
    .join('work_facts as w', 'w.id', 'b.work_id')
    .joinRaw('left join site as s on b.on_site and s.id = w.site_id')
    .where('b.person_id', personId)
    .whereNot('b.state', 'cancelled')
    .where('b.planned_starts_at', '>=', at(instantAt(day, 0, zone)))
    .where('b.planned_starts_at', '<', at(instantAt(plusDays(day, 1), 0, zone)))
    .orderBy(['b.starts_at', 'b.id'])
    .select('b.id', 'b.travel_before', 'b.travel_after', 's.id as site', 's.latitude', 's.longitude');
  const [known, starts] = [await readKnownTravel(work.tx), await readStarts(work.tx, [personId])];
  const stops = rows.map((r) => ({ id: r.id, place: placeOf(r.site, r.latitude, r.longitude) }));
  const travel = travelOfDay(stops, starts.get(personId) ?? null, known);
  for (const r of rows) {
    const { before, after } = travel.get(r.id)!;
    if (before !== r.travel_before || after !== r.travel_after)
      await work.tx('booking').where({ id: r.id }).update({ travel_before: before, travel_after: after });
  }
}

/** Lays the ways anew of all days to come that lead to or from some places. */
export async function settlePlaces(work: Work, book: HouseBook, placeIds: readonly string[]): Promise<void> {
  const rows: Row<'booking', 'person_id' | 'starts_at'>[] = await work
    .tx('booking as b')
    .join('work_facts as w', 'w.id', 'b.work_id')
    .where('b.on_site', true)
    .where('b.state', 'planned')
    .where('b.starts_at', '>', at(work.now))
    .whereNotNull('b.person_id')
    .where((q) => void q.whereIn('b.person_id', [...placeIds]).orWhereRaw('w.site_id = any(?::uuid[])', [[...placeIds]]))
    .select('b.person_id', 'b.starts_at');
  const days = new Map(rows.map((r) => [`${r.person_id} ${dateOf(r.starts_at, book.house.zone)}`, r]));
  for (const r of days.values()) await settleTravel(work, book, { personId: r.person_id, day: dateOf(r.starts_at, book.house.zone) });
  const whose = [...new Set(rows.map((r) => r.person_id as string))];
  if (whose.length)
    await work.emit(
      'booking',
      null,
      whose.map((personId) => ({ personId })),
    );
}
