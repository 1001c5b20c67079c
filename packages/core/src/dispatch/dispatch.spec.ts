import fc from 'fast-check';
import type { Instant, Interval } from '../time';
import { beatStrip, laneDay, slotTrouble, type LaneBooking } from './index';

const at = (hour: number) => (hour * 3600) as Instant;
const span = (from: number, to: number): Interval => ({ from: at(from), to: at(to) });
const booking = (id: string, from: number, to: number, travelMinutes = 0): LaneBooking => ({ id, ...span(from, to), travelMinutes });

describe('dispatch', () => {
  it('counts overlaps once, cuts to working time and reports what collides', () => {
    const lane = laneDay([span(8, 17)], [span(12, 13)], [booking('a', 9, 11), booking('b', 10, 12), booking('c', 16, 18)], at(10));
    expect([lane.available / 3600, lane.booked / 3600, lane.load]).toEqual([8, 4, 50]);
    expect(lane.free / 3600).toBe(3);
    expect(lane.conflicts.map((c) => `${c.bookingId} ${c.why}`)).toEqual([
      'a overlaps another booking',
      'b overlaps another booking',
      'c outside working time',
    ]);
  });

  it('keeps travel free and says when it is too tight', () => {
    const lane = laneDay([span(8, 17)], [], [booking('a', 9, 10, 30), booking('b', 10, 11)], at(8));
    expect(lane.gaps).toEqual([
      { from: at(8), to: at(8.5) },
      { from: at(11), to: at(17) },
    ]);
    expect(lane.conflicts).toEqual([{ bookingId: 'a', why: 'travel too tight' }]);
  });

  it('agrees with counting quarter hours one by one', () => {
    const quarter = fc.tuple(fc.nat(90), fc.integer({ min: 1, max: 20 }));
    const of = ([from, n]: [number, number]) => span(from / 4, (from + n) / 4);
    fc.assert(
      fc.property(
        fc.array(quarter, { maxLength: 3 }),
        fc.array(quarter, { maxLength: 2 }),
        fc.array(quarter, { maxLength: 5 }),
        fc.nat(96),
        (w, o, b, now) => {
          const [working, off, bookings] = [w.map(of), o.map(of), b.map((x, i) => ({ id: String(i), ...of(x), travelMinutes: 0 }))];
          const inside = (list: readonly Interval[], q: number) => list.some((i) => i.from <= q * 900 && q * 900 < i.to);
          let [available, booked, free] = [0, 0, 0];
          for (let q = 0; q < 120; q++) {
            if (!inside(working, q) || inside(off, q)) continue;
            available += 900;
            if (inside(bookings, q)) booked += 900;
            else if (q >= now) free += 900;
          }
          const lane = laneDay(working, off, bookings, (now * 900) as Instant);
          expect([lane.available, lane.booked, lane.free]).toEqual([available, booked, free]);
        },
      ),
    );
  });

  it('draws a day in quarter hours', () => {
    expect(beatStrip(span(8, 10), [span(8.5, 10)], [span(9, 9.5)], [span(8.5, 9.25)])).toEqual([
      'off',
      'off',
      'logged',
      'logged',
      'logged',
      'booked',
      'free',
      'free',
    ]);
  });

  it('says what stands against a slot before it is taken, and nothing against a booking itself', () => {
    const lane = { working: [span(8, 12), span(13, 17)], timeOff: [span(16, 17)], bookings: [booking('a', 9, 10)], hasTechnician: true };
    const trouble = (from: number, to: number, itself?: string) => slotTrouble(lane, span(from, to), at(8.5), itself);
    expect(trouble(9.5, 10.5)).toBe('overlaps another booking');
    expect(trouble(9.5, 10.5, 'a')).toBeUndefined();
    expect(trouble(10, 11)).toBeUndefined();
    expect(trouble(15.5, 16.5)).toBe('on a day off');
    expect(trouble(11.5, 13.5)).toBe('outside working hours');
    expect(trouble(8, 9)).toBe('in the past');
    expect(slotTrouble({ ...lane, hasTechnician: false }, span(19, 20), at(8))).toBeUndefined();
  });
});
