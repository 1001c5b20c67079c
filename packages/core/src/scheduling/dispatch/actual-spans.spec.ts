import fc from 'fast-check';
import { dateOf, parseInstant, parseZone, type Instant, type Interval } from '../../ground';
import { actualSpans, bookingOf, type DoneBooking, type WorkedEntry } from '.';

const zone = parseZone('Europe/Dublin');
const dayOf = (t: Instant) => dateOf(t, zone);
const at = (time: string, day = '24') => parseInstant(`2026-11-${day}T${time}:00Z`);
const span = (from: string, to: string, day = '24'): Interval => ({ from: at(from, day), to: at(to, day) });
const booking = ({
  id,
  from,
  to,
  day = '24',
}: {
  readonly id: string;
  readonly from: string;
  readonly to: string;
  readonly day?: string;
}): DoneBooking => ({ id, planned: span(from, to, day) });
const entry = (from: string, to: string, day = '24'): WorkedEntry => ({ id: `e${from}`, span: span(from, to, day) });

describe('what a booking really took', () => {
  it('shrinks to the time that was logged in it, and keeps the plan where none was', () => {
    const bookings = [booking({ id: 'a', from: '09:00', to: '11:00' }), booking({ id: 'b', from: '14:00', to: '15:00' })];
    const spans = actualSpans(bookings, [entry('09:10', '09:40')], dayOf);
    expect([spans.get('a'), spans.get('b')]).toEqual([span('09:10', '09:40'), span('14:00', '15:00')]);
  });

  it('stretches from the earliest start to the latest end of all that belongs to it', () => {
    const spans = actualSpans(
      [booking({ id: 'a', from: '09:00', to: '10:00' })],
      [entry('09:30', '10:45'), entry('08:50', '09:10')],
      dayOf,
    );
    expect(spans.get('a')).toEqual(span('08:50', '10:45'));
  });

  it('takes an entry to the booking it overlaps most, else to the nearest on that day, and to none on another', () => {
    const bookings = [
      booking({ id: 'a', from: '09:00', to: '10:00' }),
      booking({ id: 'b', from: '10:00', to: '12:00' }),
      booking({ id: 'c', from: '15:00', to: '16:00' }),
    ];
    expect(bookingOf(entry('09:45', '10:30'), bookings, dayOf)).toEqual({ bookingId: 'b', equally: [] });
    expect(bookingOf(entry('13:00', '13:30'), bookings, dayOf)).toEqual({ bookingId: 'b', equally: [] });
    expect(bookingOf(entry('14:00', '14:30'), bookings, dayOf)).toEqual({ bookingId: 'c', equally: [] });
    expect(bookingOf(entry('10:00', '11:00', '25'), bookings, dayOf)).toBeUndefined();
  });

  it('says which others fit equally, and takes the earlier', () => {
    const bookings = [booking({ id: 'b', from: '10:00', to: '11:00' }), booking({ id: 'a', from: '09:00', to: '10:00' })];
    expect(bookingOf(entry('09:30', '10:30'), bookings, dayOf)).toEqual({ bookingId: 'a', equally: ['b'] });
  });

  it('goes by what the technician said, where they were asked', () => {
    const bookings = [booking({ id: 'a', from: '09:00', to: '10:00' }), booking({ id: 'b', from: '10:00', to: '11:00' })];
    const between = entry('09:30', '10:30');
    expect(bookingOf({ ...between, bookingId: 'b' }, bookings, dayOf)).toEqual({ bookingId: 'b', equally: [] });
    expect(bookingOf({ ...between, bookingId: 'gone' }, bookings, dayOf)).toEqual({ bookingId: 'a', equally: ['b'] });
  });

  it('does not depend on the order in which time was logged, and each span is as long as its entries reach', () => {
    const start = at('00:00');
    const interval = fc
      .tuple(fc.integer({ min: 0, max: 1400 }), fc.integer({ min: 1, max: 300 }))
      .map(([from, minutes]): Interval => ({ from: (start + from * 60) as Instant, to: (start + (from + minutes) * 60) as Instant }));
    const bookings = fc.array(interval, { minLength: 1, maxLength: 5 }).map((all) => all.map((planned, i) => ({ id: `b${i}`, planned })));
    const entries = fc.array(interval, { maxLength: 8 }).map((all) => all.map((s, i) => ({ id: `e${i}`, span: s })));
    fc.assert(
      fc.property(bookings, entries, (bs, es) => {
        const spans = actualSpans(bs, es, dayOf);
        expect(actualSpans([...bs].reverse(), [...es].reverse(), dayOf)).toEqual(new Map([...spans].reverse()));
        for (const b of bs) {
          const own = es.filter((e) => bookingOf(e, bs, dayOf)?.bookingId === b.id);
          expect(spans.get(b.id)).toEqual(
            own.length ? { from: Math.min(...own.map((e) => e.span.from)), to: Math.max(...own.map((e) => e.span.to)) } : b.planned,
          );
        }
        // Every entry of the day counts for exactly one booking.
        for (const e of es) expect(bookingOf(e, bs, dayOf) !== undefined || dayOf(e.span.from) !== dayOf(start)).toBe(true);
      }),
    );
  });
});
