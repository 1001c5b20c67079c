import fc from 'fast-check';
import type { Instant, Interval } from '../../ground';
import { travelMinutes, type Place } from '../travel';
import { chooseOpenings, scoreSlot, slotAt, slotIn, type Neighbour, type SlotFacts } from '.';

const at = (hour: number) => (hour * 3600) as Instant;
const span = (from: number, to: number): Interval => ({ from: at(from), to: at(to) });
const place = (id: string, longitude: number): Place => ({ id, latitude: 52, longitude });
const none = new Map<string, number>();
const facts = (more: Partial<SlotFacts> = {}): SlotFacts => ({
  priority: 'P3',
  dueAt: at(17),
  slot: span(11, 12),
  now: at(10),
  skill: undefined,
  travelMinutes: undefined,
  assigned: false,
  ticketsOfClient: 0,
  load: 50,
  ...more,
});

describe('what fits', () => {
  it('ranks what is late before what is due soon before what is due later, and each thing that speaks for it counts', () => {
    const points = (more: Partial<SlotFacts>) => scoreSlot(facts(more)).points;
    expect(points({ dueAt: at(9) })).toBeGreaterThan(points({ dueAt: at(13) }));
    expect(points({ dueAt: at(13) })).toBeGreaterThan(points({ dueAt: at(30) }));
    expect(points({ dueAt: at(30) })).toBeGreaterThan(points({ dueAt: null }));
    expect(points({ priority: 'P1' })).toBeGreaterThan(points({ priority: 'P2' }));
    expect(points({ skill: { name: 'networks', level: 3 } })).toBeGreaterThan(points({ skill: { name: 'networks', level: 1 } }));
    expect(points({ travelMinutes: 5 })).toBeGreaterThan(points({ travelMinutes: 40 }));
    expect(points({ assigned: true })).toBeGreaterThan(points({}));
    expect(points({ ticketsOfClient: 4 })).toBeGreaterThan(points({ ticketsOfClient: 1 }));
    expect(points({ slot: span(11, 12) })).toBeGreaterThan(points({ slot: span(14, 15) }));
    expect(points({ dueAt: at(13), slot: span(14, 15) })).toBeGreaterThan(points({ dueAt: at(13), slot: span(34, 35) }));
    expect(points({ load: 20 })).toBeGreaterThan(points({ load: 90 }));
  });

  it('says why, and its points are the sum of what it says', () => {
    const fit = scoreSlot(facts({ ticketsOfClient: 5, skill: { name: 'networks', level: 2 }, travelMinutes: 20 }));
    expect(fit.says).toBe('due first · knows networks · 20 min on the way');
    expect(fit.why.reduce((sum, s) => sum + Number(/: (-?\d+) points$/.exec(s.rule)![1]), 0)).toBe(fit.points);
  });

  it('leaves time for the ways, as worked out by hand', () => {
    const [home, site, next] = [place('h', -7), place('s', -7.2), place('n', -7.4)];
    const way = travelMinutes(home, site, none);
    const lane = { gaps: [], start: home, bookings: [{ ...span(12, 13), place: next, travelBefore: 0, travelAfter: 0 }] };
    // 0.2 degrees of longitude at 52 degrees north are 13.69 km; × 1.3 / 50 × 60 + 5 = 26.4 minutes.
    expect(way).toBe(26);
    expect(slotIn({ lane, gap: span(9, 12), minutes: 60, place: site, known: none })).toEqual({
      from: at(9.5),
      to: at(10.5),
      travelBefore: 26,
      travelAfter: 26,
    });
    expect(slotIn({ lane, gap: span(9, 12), minutes: 125, place: site, known: none })).toBeUndefined();
    expect(slotIn({ lane, gap: span(9, 12), minutes: 180, place: null, known: none })).toEqual({
      ...span(9, 12),
      travelBefore: 0,
      travelAfter: 0,
    });
  });

  it('lies within the gap with its ways, on five minutes, whatever is around', () => {
    const spot = fc.option(fc.integer({ min: 0, max: 30 }).map((n) => place(`p${n}`, -7 - n / 50)));
    const gap = fc.tuple(fc.integer({ min: 8 * 60, max: 15 * 60 }), fc.integer({ min: 10, max: 300 }));
    fc.assert(
      fc.property(gap, fc.integer({ min: 5, max: 240 }), spot, spot, spot, spot, ([start, length], minutes, here, home, a, b) => {
        const room = { from: (start * 60) as Instant, to: ((start + length) * 60) as Instant };
        const beside = (i: Interval, p: Place | null): Neighbour => ({ ...i, place: p, travelBefore: 0, travelAfter: 0 });
        const bookings = [beside({ from: at(7), to: room.from }, a), beside({ from: room.to, to: at(24) }, b)];
        const slot = slotIn({ lane: { gaps: [room], bookings, start: home }, gap: room, minutes, place: here, known: none });
        if (!slot) return;
        const lane = { gaps: [room], bookings, start: home };
        // The same span fits when it is asked for by itself; a minute out of the gap it does not.
        expect(slotAt({ lane, gap: room, span: slot, place: here, known: none })).toEqual(slot);
        const late = (s: Instant) => (s + room.to - slot.to + 60) as Instant;
        expect(slotAt({ lane, gap: room, span: { from: late(slot.from), to: late(slot.to) }, place: here, known: none })).toBeUndefined();
        expect([slot.from % 300, slot.to - slot.from]).toEqual([0, minutes * 60]);
        expect(slot.from - slot.travelBefore * 60).toBeGreaterThanOrEqual(room.from);
        expect(slot.to + slot.travelAfter * 60).toBeLessThanOrEqual(room.to);
        if (here)
          expect([slot.travelBefore, slot.travelAfter]).toEqual([travelMinutes(a ?? home, here, none), travelMinutes(here, b, none)]);
      }),
    );
  });

  it('offers the best openings that give a real choice', () => {
    const opening = (hour: number, points: number) => ({ ...span(hour, hour + 1), personId: 'p', points });
    const all = [opening(9, 50), opening(10, 49), opening(11.5, 30), opening(14, 20), opening(16, 90), opening(8, 99)];
    expect(chooseOpenings(all, 3, at(9)).map((o) => o.from / 3600)).toEqual([9, 11.5, 16]);
    expect(chooseOpenings(all, 3, at(17))).toEqual([]);
  });
});
