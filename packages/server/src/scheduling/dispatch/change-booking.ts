import type { MoveForm } from '@core/scheduling';
import { type Id, type Instant, isRefusal, type Outcome, refuse } from '@core/ground';
import { at } from '../../app/database';
import type { Row } from '../../app/rows';
import { changeRow } from '../../app/change-row';
import type { Work } from '../../app/work';
import { rulesOf } from '../../app/work-rules';
import type { HouseBook } from '../../house';
import { becomeBooked } from './book-work';
import { keepChange, settleDays, spanOf, technicianName } from './booking-store';
import { fitBookings } from './fit-bookings';

type Done = Outcome<{ id: Id<'booking'>; version: number }>;
const OPEN = ['planned', 'underway'];

/** Moves, stretches or hands over a booking, or changes how it is meant. Who comes along moves in time with it. */
export async function moveBooking(
  work: Work,
  book: HouseBook,
  {
    bookingId,
    version,
    to,
  }: {
    readonly bookingId: Id<'booking'>;
    readonly version: number;
    readonly to: Partial<MoveForm> & Pick<MoveForm, 'personId' | 'startsAt' | 'minutes'>;
  },
): Promise<Done> {
  const booking: Row<'booking'> | undefined = await work.tx('booking').where({ id: bookingId }).first();
  if (!booking) return refuse('not-found', 'There is no such booking.');
  if (!OPEN.includes(booking.state)) return refuse('not-possible-now', `This booking is ${booking.state}.`);
  const name = await technicianName(work, to.personId);
  if (isRefusal(name)) return name;
  const span = spanOf(to);
  const moved = span.from !== booking.starts_at || span.to !== booking.ends_at;
  const handedOver = to.personId !== booking.person_id;
  const times = { starts_at: at(span.from), ends_at: at(span.to), planned_starts_at: at(span.from), planned_ends_at: at(span.to) };
  const set = {
    person_id: to.personId,
    ...times,
    ...(to.onSite === undefined ? {} : { on_site: to.onSite }),
    ...(to.tentative === undefined ? {} : { tentative: to.tentative }),
    ...(to.fixed === undefined ? {} : { fixed: to.fixed }),
    ...(to.bring === undefined ? {} : { bring: to.bring }),
  };
  const changed = await changeRow(work, { table: 'booking', id: bookingId, version, set });
  if (isRefusal(changed)) return changed;
  await keepChange(work, bookingId, handedOver ? 'handed over' : moved ? 'moved' : 'changed');
  if (handedOver && booking.person_id) await leaveLane(work, { bookingId, personId: booking.person_id, version: changed.version });
  const touched: [string | null, Instant][] = [
    [booking.person_id, booking.starts_at],
    [to.personId, span.from],
  ];
  if (moved && booking.crew_id) touched.push(...(await moveCrew(work, { bookingId, booking, times })));
  await settleDays(work, book, touched);
  if (booking.tentative && to.tentative === false) await becomeBooked(work, booking.work_id, { personId: to.personId, bookingId });
  if (handedOver) await work.tell('booking.handed-over', bookingId, { personId: to.personId, person: name });
  else await work.tell(moved ? 'booking.moved' : 'booking.changed', bookingId, {});
  return changed;
}

/** Those who come along keep the same time; what they have done already stays. */
async function moveCrew(
  work: Work,
  {
    bookingId,
    booking,
    times,
  }: {
    readonly bookingId: Id<'booking'>;
    readonly booking: Row<'booking', 'crew_id' | 'starts_at'>;
    readonly times: Record<string, string>;
  },
): Promise<[string | null, Instant][]> {
  const others: Row<'booking', 'id' | 'person_id' | 'starts_at'>[] = await work
    .tx('booking')
    .where({ crew_id: booking.crew_id })
    .whereNot({ id: bookingId })
    .whereIn('state', OPEN)
    .update({ ...times, version: work.tx.raw('version + 1') })
    .returning(['id', 'person_id', 'starts_at']);
  for (const other of others) {
    await keepChange(work, other.id, 'moved');
    await work.tell('booking.moved-with-others', other.id, {});
  }
  return others.flatMap((o): [string | null, Instant][] => [
    [o.person_id, o.starts_at],
    [o.person_id, booking.starts_at],
  ]);
}

/** A booking that was handed over is cancelled in the feed of who had it. */
async function leaveLane(
  work: Work,
  { bookingId, personId, version }: { readonly bookingId: Id<'booking'>; readonly personId: Id<'person'>; readonly version: number },
): Promise<void> {
  await work
    .tx('booking_left')
    .insert({ booking_id: bookingId, person_id: personId, at: at(work.now), version })
    .onConflict(['booking_id', 'person_id'])
    .merge();
  await work.emit('booking', bookingId, { personId });
}

/** Ends a booking as done or cancelled, or brings a cancelled one back; the ticket's status follows. */
export async function setBookingState(
  work: Work,
  book: HouseBook,
  {
    bookingId,
    version,
    to,
    reason = null,
  }: {
    readonly bookingId: Id<'booking'>;
    readonly version: number;
    readonly to: 'planned' | 'done' | 'cancelled';
    readonly reason?: string | null;
  },
): Promise<Done> {
  const booking: Row<'booking'> | undefined = await work.tx('booking').where({ id: bookingId }).first();
  if (!booking) return refuse('not-found', 'There is no such booking.');
  const was = booking.state as string;
  if (was === to) return refuse('not-possible-now', `This booking is ${to} already.`);
  if (work.actor.role === 'technician' && to !== 'cancelled' && booking.person_id !== work.actor.personId)
    return refuse('not-allowed', 'A technician marks their own bookings done, and takes that back.');
  if (work.actor.role === 'technician' && to === 'planned' && was !== 'done')
    return refuse('not-allowed', 'A cancelled booking is brought back by dispatch.');
  const changed = await changeRow(work, {
    table: 'booking',
    id: bookingId,
    version,
    set: { state: to, cancel_reason: reason, ...(was === 'done' ? asPlanned(booking) : {}) },
  });
  if (isRefusal(changed)) return changed;
  if (to === 'done') await fitBookings(work, book.house.zone, { workId: booking.work_id, personId: booking.person_id });
  await keepChange(work, bookingId, to === 'planned' ? 'brought back' : to);
  await settleDays(work, book, [[booking.person_id, booking.planned_starts_at]]);
  await followBookings(work, booking, to);
  if (to === 'cancelled') await work.tell('booking.cancelled', bookingId, { reason });
  else if (to === 'done') await work.tell('booking.done', bookingId, {});
  else await work.tell(was === 'done' ? 'booking.not-done-after-all' : 'booking.brought-back', bookingId, {});
  return work.tx('booking').where({ id: bookingId }).first('id', 'version');
}

/** Work follows what stands for it. */
async function followBookings(
  work: Work,
  booking: Row<'booking', 'work_id' | 'work_kind'>,
  to: 'planned' | 'done' | 'cancelled',
): Promise<void> {
  const workId = booking.work_id;
  const left = await work.tx('booking').where({ work_id: workId, tentative: false }).whereIn('state', OPEN).first('id');
  await rulesOf(booking.work_kind).followBookings?.(work, workId, { stands: left !== undefined, to });
}

/** Which bookings go with one that is cancelled. */
export interface Together {
  /** All later ones of its series. */
  readonly series: boolean;
  /** Those of all who come along. */
  readonly crew: boolean;
}

/** Cancels a booking and those that go with it; what is over or done stays. */
export async function cancelBooking(
  work: Work,
  book: HouseBook,
  {
    bookingId,
    version,
    body: { reason, series, crew },
  }: { readonly bookingId: Id<'booking'>; readonly version: number; readonly body: Together & { readonly reason: string | null } },
): Promise<Done> {
  const booking: Row<'booking', 'series_id' | 'crew_id' | 'starts_at'> | undefined = await work
    .tx('booking')
    .where({ id: bookingId })
    .first('series_id', 'crew_id', 'starts_at');
  const first = await setBookingState(work, book, { bookingId, version, to: 'cancelled', reason });
  if (isRefusal(first) || !booking) return first;
  const along: Row<'booking', 'id' | 'version'>[] = await work
    .tx('booking')
    .whereIn('state', OPEN)
    .where((q) => {
      void q.whereRaw('false');
      if (crew && booking.crew_id) void q.orWhere({ crew_id: booking.crew_id });
      if (series && booking.series_id)
        void q.orWhere((w) => void w.where({ series_id: booking.series_id }).where('starts_at', '>=', at(booking.starts_at)));
    })
    .select('id', 'version');
  for (const b of along) await setBookingState(work, book, { bookingId: b.id, version: b.version, to: 'cancelled', reason });
  return first;
}

/** The span of a booking in whole minutes. */
export function minutesOf(booking: Row<'booking', 'ends_at' | 'starts_at'>): number {
  return Math.round((booking.ends_at - booking.starts_at) / 60);
}

/** Undoing "done" brings the plan back. */
function asPlanned(booking: Row<'booking', 'planned_starts_at' | 'planned_ends_at'>): Record<string, string> {
  return { starts_at: at(booking.planned_starts_at), ends_at: at(booking.planned_ends_at) };
}
