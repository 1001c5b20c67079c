import fc from 'fast-check';
import { comparePlan, GATHERED_BY, totalPlan, type PlanFact, type PlannedBooking } from '.';

const minutes = fc.integer({ min: 0, max: 600 });
const names = fc.record({ technician: fc.constantFrom('a', 'b', 'c'), kind: fc.constantFrom('x', 'y'), client: fc.constantFrom('q', 'r') });
const booking: fc.Arbitrary<PlannedBooking> = fc.record({
  key: names,
  name: names,
  state: fc.constantFrom('planned', 'underway', 'done', 'cancelled'),
  plannedMinutes: minutes,
  actualMinutes: minutes,
  travelMinutes: minutes,
  moves: fc.integer({ min: 0, max: 4 }),
});
const lost = fc
  .dictionary(fc.constantFrom('a', 'b', 'd'), minutes)
  .map((all) => new Map(Object.entries(all).map(([key, m]) => [key, { name: key, minutes: m }])));
const ADDED = [
  'bookings',
  'done',
  'cancelled',
  'moved',
  'moves',
  'plannedMinutes',
  'actualMinutes',
  'aheadMinutes',
  'travelMinutes',
] as const;

describe('plan and fact', () => {
  it('adds up to the same total, however it is gathered', () => {
    fc.assert(
      fc.property(fc.array(booking, { maxLength: 40 }), lost, fc.constantFrom(...GATHERED_BY), (all, lostBy, by) => {
        const rows = comparePlan(all, by, lostBy);
        const total = totalPlan(all, lostBy);
        const sum = (name: keyof PlanFact) => rows.reduce((s, r) => s + Number(r[name] ?? 0), 0);
        for (const name of ADDED) expect(sum(name)).toBe(total[name]);
        if (by === 'technician') expect(sum('lostMinutes')).toBe(total.lostMinutes);
        else expect(rows.every((r) => r.lostMinutes === undefined)).toBe(true);
        expect(new Set(rows.map((r) => r.key)).size).toBe(rows.length);
      }),
    );
  });

  it('holds what is done against its own plan, and leaves what is cancelled without minutes', () => {
    const one = (more: Partial<PlannedBooking>): PlannedBooking => ({
      key: { technician: 'a', kind: 'x', client: 'q' },
      name: { technician: 'Ana', kind: 'x', client: 'q' },
      state: 'done',
      plannedMinutes: 60,
      actualMinutes: 45,
      travelMinutes: 10,
      moves: 0,
      ...more,
    });
    const all = [one({}), one({ actualMinutes: 90, moves: 2 }), one({ state: 'planned' }), one({ state: 'cancelled', moves: 1 })];
    expect(comparePlan(all, 'technician', new Map())).toEqual([
      {
        key: 'a',
        name: 'Ana',
        bookings: 4,
        done: 2,
        cancelled: 1,
        moved: 2,
        moves: 3,
        plannedMinutes: 120,
        actualMinutes: 135,
        aheadMinutes: 60,
        travelMinutes: 30,
        lostMinutes: 0,
      },
    ]);
  });
});
