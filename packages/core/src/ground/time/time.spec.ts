import fc from 'fast-check';
import { Temporal } from 'temporal-polyfill';
import {
  dateOf,
  dateOfDay,
  datesIn,
  dayNumber,
  daysBetween,
  formatInstant,
  formatMinutes,
  instantAt,
  intersect,
  parseInstant,
  parseLocalDate,
  parseMinutes,
  parseZone,
  plusDays,
  secondsIn,
  subtract,
  unite,
  wallMinuteOf,
  type Instant,
  type Interval,
} from '.';

const interval = fc.tuple(fc.nat(200), fc.nat(60)).map(([from, n]): Interval => ({ from: from as Instant, to: (from + n) as Instant }));
const covered = (list: readonly Interval[], t: number) => list.some((i) => i.from <= t && t < i.to);

describe('time', () => {
  it('cuts instants to the second and writes them back', () => {
    expect(formatInstant(parseInstant('2026-11-24T10:40:00.999Z'))).toBe('2026-11-24T10:40:00Z');
    expect(() => parseInstant('soon')).toThrow('2026-11-24T10:40:00Z');
    expect(() => parseLocalDate('2026-02-30')).toThrow(RangeError);
    expect(() => parseZone('Mars/Base')).toThrow();
  });

  it('finds the dates of many instants as of each alone, also where clocks change at midnight', () => {
    const zones = ['Europe/Dublin', 'America/Sao_Paulo', 'Asia/Beirut', 'America/Havana', 'Australia/Lord_Howe', 'Pacific/Apia', 'UTC'];
    const start = parseInstant('2010-01-01T00:00:00Z');
    const instants = fc.array(fc.integer({ min: 0, max: 17 * 365 * 48 }), { minLength: 1, maxLength: 60 });
    fc.assert(
      fc.property(fc.constantFrom(...zones), instants, (name, halfHours) => {
        const zone = parseZone(name);
        const on = datesIn(zone);
        // Twice, and a second before: what is known already is asked too.
        for (const n of [...halfHours, ...halfHours])
          for (const t of [start + n * 1800, start + n * 1800 - 1] as Instant[]) expect(on(t)).toBe(dateOf(t, zone));
      }),
    );
  });

  it('maps wall time that does not exist, or exists twice, as compatible does', () => {
    const dublin = parseZone('Europe/Dublin');
    expect(formatInstant(instantAt(parseLocalDate('2026-03-29'), 90, dublin))).toBe('2026-03-29T01:30:00Z');
    expect(formatInstant(instantAt(parseLocalDate('2026-10-25'), 90, dublin))).toBe('2026-10-25T00:30:00Z');
    expect(formatInstant(instantAt(parseLocalDate('2026-03-29'), 1440, dublin))).toBe('2026-03-29T23:00:00Z');
    expect(dateOf(parseInstant('2026-06-30T23:30:00Z'), dublin)).toBe('2026-07-01');
    expect(wallMinuteOf(parseInstant('2026-06-30T23:30:00Z'), dublin)).toBe(30);
    expect(plusDays(parseLocalDate('2026-12-31'), 1)).toBe('2027-01-01');
  });

  it('reads durations in every way people type them', () => {
    for (const [typed, minutes] of [
      ['90', 90],
      ['90m', 90],
      ['1:30', 90],
      ['1.5', 90],
      ['1,5', 90],
      ['1h30', 90],
      ['1 h 40', 100],
      ['2h', 120],
      ['0.25', 15],
    ] as const)
      expect([typed, parseMinutes(typed)]).toEqual([typed, minutes]);
    for (const wrong of ['', 'abc', '1:75', '-5', '2000']) expect(parseMinutes(wrong)).toBeUndefined();
    fc.assert(fc.property(fc.integer({ min: 0, max: 1440 }), (m) => expect(parseMinutes(formatMinutes(m))).toBe(m)));
    const year = 366 * 1440;
    fc.assert(fc.property(fc.integer({ min: 0, max: year }), (m) => expect(parseMinutes(formatMinutes(m), year)).toBe(m)));
    expect([parseMinutes('60h'), parseMinutes('60h', year), parseMinutes('9000h', year)]).toEqual([undefined, 3600, undefined]);
  });

  it('unites, cuts and intersects like sets of seconds', () => {
    fc.assert(
      fc.property(fc.array(interval, { maxLength: 6 }), fc.array(interval, { maxLength: 6 }), (a, b) => {
        const [ua, ub] = [unite(a), unite(b)];
        const [both, only] = [intersect(ua, ub), subtract(ua, ub)];
        let count = 0;
        for (let t = 0; t < 270; t++) {
          if (covered(a, t)) count++;
          expect(covered(ua, t)).toBe(covered(a, t));
          expect(covered(both, t)).toBe(covered(a, t) && covered(b, t));
          expect(covered(only, t)).toBe(covered(a, t) && !covered(b, t));
        }
        expect(secondsIn(ua)).toBe(count);
      }),
    );
  });
});

describe('day numbers', () => {
  it('are those of another reckoning, both ways, over the years 0 to 9999', () => {
    expect([dayNumber(parseLocalDate('1970-01-01')), dateOfDay(-1), dateOfDay(0)]).toEqual([0, '1969-12-31', '1970-01-01']);
    fc.assert(
      fc.property(fc.integer({ min: -715_000, max: 2_900_000 }), fc.integer({ min: -4000, max: 4000 }), (n, days) => {
        const date = dateOfDay(n);
        const other = Temporal.PlainDate.from('1970-01-01').add({ days: n });
        expect(date).toBe(other.toString());
        expect(dayNumber(date)).toBe(n);
        expect(plusDays(date, days)).toBe(other.add({ days }).toString());
        expect(daysBetween(date, plusDays(date, days))).toBe(days);
      }),
    );
  });
});
