import { Big } from 'big.js';
import fc from 'fast-check';
import { type LocalDate, parseCalendar, parseInstant, plusSeconds, TIME_BANDS } from '../../ground';
import {
  callOutFeesDue,
  chooseRate,
  rateEntry,
  roundMinutes,
  splitByBand,
  spreadRounding,
  type Activity,
  type RateBook,
  type RateRule,
} from '.';

const calendar = parseCalendar({
  name: 'provider',
  zone: 'Europe/Dublin',
  week: [...Array(5).fill(['08:00-18:00']), [], []],
  dates: { '2026-10-26': [] },
});
const remote: Activity = {
  id: 'remote',
  name: 'remote',
  rounding: { increment: 15, mode: 'up', minimum: 15 },
  pricing: { factor: '1' },
  callOutFee: null,
};
const onSite: Activity = { ...remote, id: 'on-site', name: 'on site', callOutFee: '45' };
const rule = (part: Partial<RateRule>): RateRule => ({
  id: 'a',
  level: 'default',
  gradeId: 'engineer',
  activityId: null,
  band: null,
  rate: '90',
  from: '2020-01-01' as LocalDate,
  to: null,
  ...part,
});
const book: RateBook = {
  calendar,
  zone: calendar.zone,
  currency: 'EUR',
  rules: [rule({})],
  bands: { 'working hours': { factor: '1' }, 'out of hours': { factor: '1.5' }, holiday: { factor: '2' } },
};
const entry = (from: string, minutes: number, activity = remote) => ({
  from: parseInstant(from),
  to: plusSeconds(parseInstant(from), minutes * 60),
  minutes,
  gradeId: 'engineer',
  activity,
});

describe('time entries', () => {
  it('splits at the borders of bands, but not at midnight', () => {
    const bands = (from: string, minutes: number) =>
      splitByBand(calendar, parseInstant(from), plusSeconds(parseInstant(from), minutes * 60)).map(
        (s) => `${s.band} ${(s.to - s.from) / 60}`,
      );
    expect(bands('2026-11-24T17:30:00Z', 60)).toEqual(['working hours 30', 'out of hours 30']);
    expect(bands('2026-11-24T23:00:00Z', 120)).toEqual(['out of hours 120']);
    expect(bands('2026-10-25T22:00:00Z', 180)).toEqual(['out of hours 120', 'holiday 60']);
  });

  it('rates an evening that starts in working hours in two parts', () => {
    const rated = rateEntry(entry('2026-11-24T17:30:00Z', 50), book);
    expect(rated).toMatchObject({
      is: 'rated',
      billedMinutes: 60,
      parts: [
        { minutes: 40, rate: '90', net: { minor: 6000 } },
        { minutes: 20, rate: '135', net: { minor: 4500 } },
      ],
    });
  });

  it('puts fixed rates before factors, and no factor on what the rule names', () => {
    const fixed: Activity = { ...remote, pricing: { fixedRate: '50' } };
    expect(rateEntry(entry('2026-11-24T20:00:00Z', 60, fixed), book)).toMatchObject({ parts: [{ rate: '50' }] });
    const named = { ...book, rules: [rule({ band: 'out of hours', rate: '100' })] };
    expect(rateEntry(entry('2026-11-24T20:00:00Z', 60), named)).toMatchObject({ parts: [{ rate: '100', net: { minor: 10000 } }] });
    expect(rateEntry({ ...entry('2026-11-24T20:00:00Z', 60), gradeId: 'architect' }, book).is).toBe('no rate');
  });

  it('chooses the rate that a slow reading of the rules chooses', () => {
    const rules = fc.array(
      fc.record({
        id: fc.uuid(),
        level: fc.constantFrom('contract', 'client', 'default'),
        gradeId: fc.constantFrom('g1', 'g2', null),
        activityId: fc.constantFrom('a1', 'a2', null),
        band: fc.constantFrom(...TIME_BANDS, null),
        rate: fc.constant('1'),
        from: fc.constantFrom('2026-01-01', '2026-06-01'),
        to: fc.constantFrom('2026-09-01', null),
      }) as fc.Arbitrary<RateRule>,
      { maxLength: 12 },
    );
    fc.assert(
      fc.property(rules, fc.constantFrom('2026-02-01', '2026-07-01', '2026-12-01'), (list, on) => {
        const question = { gradeId: 'g1', activityId: 'a1', band: 'holiday' as const, on: on as LocalDate };
        const order = [
          [1, 1, 1],
          [1, 1, 0],
          [1, 0, 1],
          [0, 1, 1],
          [1, 0, 0],
          [0, 1, 0],
          [0, 0, 1],
          [0, 0, 0],
        ];
        let slow: RateRule | undefined;
        outer: for (const level of ['contract', 'client', 'default'])
          for (const [g, a, b] of order) {
            const found = list.filter(
              (r) =>
                r.level === level &&
                r.gradeId === (g ? 'g1' : null) &&
                r.activityId === (a ? 'a1' : null) &&
                r.band === (b ? 'holiday' : null) &&
                r.from <= on &&
                (!r.to || on < r.to),
            );
            found.sort((x, y) => (x.from === y.from ? (x.id < y.id ? -1 : 1) : x.from > y.from ? -1 : 1));
            if ((slow = found[0])) break outer;
          }
        expect(chooseRate(list, question)).toBe(slow);
      }),
    );
  });

  it('rounds whole entries, and spreads the difference without going below zero', () => {
    expect([0, 1, 15, 16].map((m) => roundMinutes(m, remote.rounding))).toEqual([0, 15, 15, 30]);
    expect([7, 8, 22, 23].map((m) => roundMinutes(m, { increment: 15, mode: 'nearest', minimum: 0 }))).toEqual([0, 15, 15, 30]);
    expect(roundMinutes(5, { increment: 10, mode: 'nearest', minimum: 0 })).toBe(10);
    expect(spreadRounding([10, 10], 30)).toEqual([20, 10]);
    expect(spreadRounding([2, 12], 0)).toEqual([0, 0]);
    fc.assert(
      fc.property(fc.array(fc.nat(300), { minLength: 1, maxLength: 5 }), fc.nat(2000), (parts, rounded) => {
        const out = spreadRounding(parts, rounded);
        expect(out.reduce((a, b) => a + b, 0)).toBe(rounded);
        expect(out.every((m) => m >= 0)).toBe(true);
      }),
    );
  });

  it('never bills minutes that are not the rounded minutes, and amounts follow the rate exactly', () => {
    fc.assert(
      fc.property(
        fc.nat(900_000),
        fc.integer({ min: 1, max: 900 }),
        fc.constantFrom('up', 'down', 'nearest'),
        fc.constantFrom(1, 6, 15),
        (n, minutes, mode, increment) => {
          const activity = { ...remote, rounding: { increment, mode, minimum: 0 } as const };
          const from = plusSeconds(parseInstant('2026-10-23T00:00:00Z'), n * 60);
          const rated = rateEntry({ from, to: plusSeconds(from, minutes * 60), minutes, gradeId: 'engineer', activity }, book);
          if (rated.is !== 'rated') throw new Error('a rate exists');
          expect(rated.parts.reduce((a, p) => a + p.minutes, 0)).toBe(rated.billedMinutes);
          for (const p of rated.parts) expect(p.net.minor).toBe(new Big(p.rate).times(p.minutes).times(100).div(60).round(0, 1).toNumber());
        },
      ),
    );
  });

  it('adds one call-out fee a visit, at its first entry', () => {
    const visit = (id: string, startsAt: number, more: object = {}) => ({
      id,
      personId: 'p',
      workId: 't',
      on: '2026-11-24' as LocalDate,
      activity: onSite,
      startsAt,
      ...more,
    });
    expect(
      [
        ...callOutFeesDue([visit('b', 20), visit('a', 10), visit('c', 5, { on: '2026-11-25' }), visit('d', 1, { activity: remote })]),
      ].sort(),
    ).toEqual(['a', 'c']);
  });
});
