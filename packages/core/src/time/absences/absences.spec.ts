import fc from 'fast-check';
import { instantAt, parseLocalDate, parseZone, plusDays, secondsIn, subtract, weekdayOf, type LocalDate } from '../../ground';
import { absenceAfter, awayDuring, balanceOfYear, countDays, middleOf, overdrawnIn, sayDays, type Taken } from '.';

const day = parseLocalDate;
const ZONE = parseZone('Europe/Dublin');
const weekday = (date: LocalDate) => weekdayOf(date) <= 5;
const on = (date: LocalDate, minutes: readonly (readonly [number, number])[]) => ({
  from: instantAt(date, 0, ZONE),
  to: instantAt(date, 1440, ZONE),
  working: minutes.map(([a, b]) => ({ from: instantAt(date, a, ZONE), to: instantAt(date, b, ZONE) })),
});

describe('days off', () => {
  it('take working days alone, and halves at their ends', () => {
    const off = { from: day('2026-11-20'), to: day('2026-11-24'), fromMiddle: true, toMiddle: false };
    expect([...countDays(off, weekday)]).toEqual([
      ['2026-11-20', 1],
      ['2026-11-23', 2],
      ['2026-11-24', 2],
    ]);
    const short = { from: day('2026-11-24'), to: day('2026-11-24'), fromMiddle: false, toMiddle: true };
    expect([...countDays(short, weekday)]).toEqual([['2026-11-24', 1]]);
  });

  it('take what two absences side by side take, wherever they meet', () => {
    fc.assert(
      fc.property(fc.nat(700), fc.nat(40), fc.nat(40), fc.boolean(), (start, a, b, half) => {
        const from = plusDays(day('2026-01-01'), start);
        const [mid, to] = [plusDays(from, a), plusDays(from, a + b + 1)];
        const sum = (all: Map<LocalDate, number>) => [...all.values()].reduce((s, n) => s + n, 0);
        const whole = sum(countDays({ from, to, fromMiddle: false, toMiddle: false }, weekday));
        const first = sum(countDays({ from, to: mid, fromMiddle: false, toMiddle: half }, weekday));
        const rest = { from: half ? mid : plusDays(mid, 1), to, fromMiddle: half, toMiddle: false };
        expect(first + sum(countDays(rest, weekday))).toBe(whole);
      }),
    );
  });

  it('begin and end in the middle of working time, breaks and long nights of the clock left out', () => {
    const date = day('2026-11-24');
    expect(
      middleOf(
        on(date, [
          [510, 720],
          [780, 1050],
        ]),
      ),
    ).toBe(instantAt(date, 810, ZONE));
    expect(middleOf(on(date, []))).toBe(instantAt(date, 720, ZONE));
    fc.assert(
      fc.property(fc.nat(729), fc.integer({ min: 0, max: 700 }), fc.integer({ min: 2, max: 700 }), (n, start, length) => {
        const one = plusDays(date, n);
        const dayOf = (d: LocalDate) => on(d, [[start, start + length]]);
        const morning = awayDuring({ from: one, to: one, fromMiddle: false, toMiddle: true }, dayOf);
        const afternoon = awayDuring({ from: one, to: one, fromMiddle: true, toMiddle: false }, dayOf);
        const { working } = dayOf(one);
        const left = [morning, afternoon].map((off) => secondsIn(subtract(working, [off])));
        expect(Math.abs(left[0]! - left[1]!)).toBeLessThanOrEqual(1);
        expect(left[0]! + left[1]!).toBe(secondsIn(working));
      }),
    );
  });

  it('are said as people say them', () => {
    expect([0, 1, 2, 3, 5, -1, -4].map(sayDays)).toEqual(['0 days', '½ day', '1 day', '1½ days', '2½ days', '−½ day', '−2 days']);
  });

  it('move between states as the table says', () => {
    expect(absenceAfter('requested', 'approve')).toBe('approved');
    expect(absenceAfter('approved', 'approve')).toBeUndefined();
    expect(absenceAfter('refused', 'withdraw')).toBeUndefined();
    expect(absenceAfter('refused', 'take back')).toBe('requested');
  });
});

describe('what is left of a year', () => {
  const rules = { yearHalves: 50, carryHalves: 10, carryUntil: '03-31' };
  const taken = (more: Partial<Taken>): Taken => ({
    granted: new Map(),
    approved: new Map(),
    requested: new Map(),
    firstYear: 2025,
    ...more,
  });

  it('carries over at most what the rule says, to be used by its day', () => {
    const one = taken({
      approved: new Map([
        [day('2025-07-01'), 36],
        [day('2026-03-31'), 4],
        [day('2026-04-01'), 6],
      ]),
    });
    expect(balanceOfYear({ year: 2026, today: day('2026-02-01'), rules, taken: one })).toMatchObject({
      granted: 50,
      carried: 10,
      lapsed: 0,
      approved: 10,
      left: 50,
    });
    expect(balanceOfYear({ year: 2026, today: day('2026-04-01'), rules, taken: one })).toMatchObject({ carried: 10, lapsed: 6, left: 44 });
    expect(overdrawnIn(2026, rules, one)).toBe(0);
    expect(overdrawnIn(2026, rules, taken({ approved: new Map([[day('2026-07-01'), 53]]), firstYear: 2026 }))).toBe(3);
  });

  it('is what was given and carried less what was taken and lapsed, and never carries more than was left', () => {
    const dates = fc.integer({ min: 0, max: 1094 }).map((n) => plusDays(day('2025-01-01'), n));
    const some = fc.array(fc.tuple(dates, fc.constantFrom(1, 2)), { maxLength: 120 }).map((all) => new Map(all));
    fc.assert(
      fc.property(some, some, fc.nat(60), fc.nat(30), dates, (approved, requested, yearHalves, carryHalves, today) => {
        const r = { yearHalves, carryHalves, carryUntil: '03-31' };
        const t = taken({ approved, requested });
        const [first, second] = [
          balanceOfYear({ year: 2025, today, rules: r, taken: t }),
          balanceOfYear({ year: 2026, today, rules: r, taken: t }),
        ];
        expect(first.carried).toBe(0);
        for (const b of [first, second]) expect(b.granted + b.carried - b.lapsed - b.approved - b.requested).toBe(b.left);
        expect(second.carried).toBe(Math.min(carryHalves, Math.max(0, first.left)));
        expect(second.lapsed).toBeLessThanOrEqual(second.carried);
        // Once the day has passed, what is overdrawn is what is missing in the balance.
        const later = balanceOfYear({ year: 2026, today: day('2027-01-01'), rules: r, taken: t });
        expect(overdrawnIn(2026, r, t)).toBe(Math.max(0, -later.left));
      }),
    );
  });
});
