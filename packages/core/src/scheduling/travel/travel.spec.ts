import fc from 'fast-check';
import { pairOf, straightLineKm, travelMinutes, travelOfDay, type Place } from '.';

const place = (id: string, latitude: number | null, longitude: number | null): Place => ({ id, latitude, longitude });

/** Half way round the earth, the arc loses digits. */
const METRE = 0.001;

describe('travel between places', () => {
  it('is the straight line by 1.3 at 50 km/h and 5 minutes, as worked out by hand', () => {
    // One degree of latitude is 6371 × π / 180 = 111.195 km; × 1.3 / 50 × 60 + 5 = 178.46 minutes.
    expect(straightLineKm(place('a', 52, -7), place('b', 53, -7))).toBeCloseTo(111.195, 2);
    expect(travelMinutes(place('a', 52, -7), place('b', 53, -7), new Map())).toBe(178);
    expect(travelMinutes(place('a', 52, -7), place('b', 52, -7), new Map())).toBe(5);
  });

  it('is what is known, either way, and nothing where coordinates are missing or the place is the same', () => {
    const known = new Map([[pairOf('b', 'a'), 40]]);
    expect(travelMinutes(place('a', 52, -7), place('b', 53, -7), known)).toBe(40);
    expect(travelMinutes(place('b', null, null), place('a', 53, -7), known)).toBe(40);
    expect(travelMinutes(place('c', null, null), place('a', 53, -7), known)).toBe(0);
    expect(travelMinutes(place('a', 52, -7), place('a', 52, -7), known)).toBe(0);
    expect(travelMinutes(null, place('a', 52, -7), known)).toBe(0);
  });

  it('is as long there as back, never below the time of setting out, and not longer by way of the pole', () => {
    const anywhere = fc.record({
      id: fc.uuid(),
      latitude: fc.double({ min: -85, max: 85, noNaN: true }),
      longitude: fc.double({ min: -180, max: 180, noNaN: true }),
    });
    fc.assert(
      fc.property(anywhere, anywhere, (a, b) => {
        fc.pre(a.id !== b.id);
        const there = travelMinutes(a, b, new Map());
        expect(travelMinutes(b, a, new Map())).toBe(there);
        expect(there).toBeGreaterThanOrEqual(5);
        expect(straightLineKm(a, b)!).toBeLessThanOrEqual(((180 - a.latitude - b.latitude) * Math.PI * 6371) / 180 + METRE);
      }),
    );
  });
});

describe('the ways of a day', () => {
  const known = new Map([
    ['a home', 20],
    ['a b', 15],
    ['b home', 25],
  ]);
  const at = (id: string) => place(id, null, null);

  it('lead from where the day begins from visit to visit and back, whatever is done from anywhere between', () => {
    const stops = [
      { id: '1', place: null },
      { id: '2', place: at('a') },
      { id: '3', place: null },
      { id: '4', place: at('b') },
      { id: '5', place: at('b') },
    ];
    expect([...travelOfDay(stops, at('home'), known).values()]).toEqual([
      { before: 0, after: 0 },
      { before: 20, after: 0 },
      { before: 0, after: 0 },
      { before: 15, after: 0 },
      { before: 0, after: 25 },
    ]);
    expect(travelOfDay(stops, null, known).get('2')).toEqual({ before: 0, after: 0 });
  });
});
