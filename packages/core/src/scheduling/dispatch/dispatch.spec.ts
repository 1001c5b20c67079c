import fc from 'fast-check';
import type { Instant, Interval } from '../../ground';
import type { Place } from '../travel';
import { beatStrip, laneDay, slotTroubles, type LaneBooking, type WantedSlot } from '.';

const at = (hour: number) => (hour * 3600) as Instant;
const span = (from: number, to: number): Interval => ({ from: at(from), to: at(to) });
const place = (id: string): Place => ({ id, latitude: null, longitude: null });
const booking = ({
  id,
  from,
  to,
  travelMinutes = 0,
}: {
  readonly id: string;
  readonly from: number;
  readonly to: number;
  readonly travelMinutes?: number;
}): LaneBooking => ({
  id,
  ...span(from, to),
  travelBefore: travelMinutes,
  travelAfter: travelMinutes,
});

describe('dispatch', () => {
  it('counts overlaps once, cuts to working time and reports what collides', () => {
    const lane = laneDay({
      working: [span(8, 17)],
      timeOff: [span(12, 13)],
      bookings: [booking({ id: 'a', from: 9, to: 11 }), booking({ id: 'b', from: 10, to: 12 }), booking({ id: 'c', from: 16, to: 18 })],
      recorded: [],
      now: at(10),
    });
    expect([lane.available / 3600, lane.booked / 3600, lane.load]).toEqual([8, 4, 50]);
    expect(lane.free / 3600).toBe(3);
    expect(lane.conflicts.map((c) => `${c.bookingId} ${c.why}`)).toEqual([
      'a overlaps another booking',
      'b overlaps another booking',
      'c outside working time',
    ]);
  });

  it('keeps travel free and says when it is too tight', () => {
    const lane = laneDay({
      working: [span(8, 17)],
      timeOff: [],
      bookings: [booking({ id: 'a', from: 9, to: 10, travelMinutes: 30 }), booking({ id: 'b', from: 10, to: 11 })],
      recorded: [],
      now: at(8),
    });
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
        fc.array(quarter, { maxLength: 3 }),
        fc.nat(96),
        (w, o, b, r, now) => {
          const recorded = r.map(of);
          const [working, off, bookings] = [
            w.map(of),
            o.map(of),
            b.map((x, i) => ({ id: String(i), ...of(x), travelBefore: 0, travelAfter: 0 })),
          ];
          const inside = (list: readonly Interval[], q: number) => list.some((i) => i.from <= q * 900 && q * 900 < i.to);
          let [available, booked, free, lost] = [0, 0, 0, 0];
          for (let q = 0; q < 120; q++) {
            if (!inside(working, q) || inside(off, q)) continue;
            available += 900;
            if (inside(bookings, q)) booked += 900;
            else if (q >= now) free += 900;
            else if (!inside(recorded, q)) lost += 900;
          }
          const lane = laneDay({ working, timeOff: off, bookings, recorded, now: (now * 900) as Instant });
          expect([lane.available, lane.booked, lane.free, lane.lost]).toEqual([available, booked, free, lost]);
        },
      ),
    );
  });

  it('draws a day in quarter hours', () => {
    expect(beatStrip({ span: span(8, 10), working: [span(8.5, 10)], booked: [span(9, 9.5)], logged: [span(8.5, 9.25)] })).toEqual([
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

  const judged = {
    working: [span(8, 12), span(13, 17)],
    timeOff: [span(16, 17)],
    bookings: [{ ...booking({ id: 'a', from: 9, to: 10 }), place: null }],
    skills: { networks: 2 },
    hasTechnician: true,
  };
  const wanted = (from: number, to: number, more: Partial<WantedSlot> = {}): WantedSlot => ({
    ...span(from, to),
    place: null,
    skill: null,
    dueAt: null,
    ...more,
  });
  const troubles = (slot: WantedSlot, known = new Map<string, number>()) => slotTroubles({ lane: judged, slot, now: at(8.5), known });

  it('says all that stands against a slot before it is taken, and nothing against a booking itself', () => {
    expect(troubles(wanted(9.5, 10.5))).toEqual(['overlaps another booking']);
    expect(troubles(wanted(9.5, 10.5, { itself: 'a' }))).toEqual([]);
    expect(troubles(wanted(10, 11))).toEqual([]);
    expect(troubles(wanted(15.5, 16.5))).toEqual(['not here']);
    expect(troubles(wanted(11.5, 13.5))).toEqual(['outside working hours']);
    expect(troubles(wanted(8, 9))).toEqual(['in the past']);
    expect(slotTroubles({ lane: { ...judged, hasTechnician: false }, slot: wanted(19, 20), now: at(8), known: new Map() })).toEqual([]);
  });

  it('misses skills and promises, and ways that are too tight', () => {
    expect(troubles(wanted(10, 11, { skill: { id: 'printing', name: 'printing' } }))).toEqual(['skill missing: printing']);
    expect(troubles(wanted(10, 11, { skill: { id: 'networks', name: 'networks' } }))).toEqual([]);
    expect(troubles(wanted(10, 11, { dueAt: at(10.5) }))).toEqual(['promise missed']);
    expect(troubles(wanted(10, 11, { dueAt: at(8) }))).toEqual([]);
    const [here, there] = [place('here'), place('there')];
    const lane = {
      ...judged,
      bookings: [
        { ...booking({ id: 'a', from: 9, to: 10 }), place: here },
        { ...booking({ id: 'c', from: 12, to: 13 }), place: there },
      ],
    };
    const tight = (from: number, to: number, minutes: number) =>
      slotTroubles({ lane, slot: wanted(from, to, { place: there }), now: at(8.5), known: new Map([['here there', minutes]]) });
    expect(tight(10, 11, 20)).toEqual(['travel too tight']);
    expect(tight(10.5, 11, 30)).toEqual([]);
    expect(slotTroubles({ lane, slot: wanted(11, 12, { place: here }), now: at(8.5), known: new Map([['here there', 20]]) })).toEqual([
      'travel too tight',
    ]);
  });
});
