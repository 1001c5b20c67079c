import fc from 'fast-check';
import { Temporal } from 'temporal-polyfill';
import { formatInstant, parseInstant, plusSeconds, type Instant } from '../time';
import { isRefusal } from '../outcome';
import {
  addWorkingSeconds,
  hoursOn,
  isHoliday,
  parseCalendar,
  readCalendar,
  replaceCalendar,
  ROUND_THE_CLOCK,
  typedCalendar,
  workingSeconds,
  type KeptCalendar,
  type WeeklyCalendar,
} from '.';

const dublin = parseCalendar({
  name: 'Dublin',
  zone: 'Europe/Dublin',
  week: [...Array(5).fill(['08:30-17:30']), [], []],
  dates: { '2026-12-25': [], '2026-12-24': ['08:30-12:00'] },
});

/** The slow way: looks at every second and asks each interval of the dates around it. */
function countSlowly(calendar: WeeklyCalendar, from: Instant, to: Instant): number {
  const spans: [number, number][] = [];
  const first = Temporal.Instant.fromEpochMilliseconds(from * 1000)
    .toZonedDateTimeISO(calendar.zone)
    .toPlainDate();
  for (let day = -2; day < 7; day++) {
    const date = first.add({ days: day });
    const hours = calendar.dates[date.toString() as never] ?? calendar.week[date.dayOfWeek - 1]!;
    for (const h of hours) {
      const at = (m: number) => {
        const wall =
          m === 1440 ? date.add({ days: 1 }).toPlainDateTime('00:00') : date.toPlainDateTime({ hour: Math.floor(m / 60), minute: m % 60 });
        return wall.toZonedDateTime(calendar.zone, { disambiguation: 'compatible' }).epochMilliseconds / 1000;
      };
      spans.push([at(h.from), at(h.to)]);
    }
  }
  let count = 0;
  for (let t: number = from; t < to; t++) if (spans.some(([a, b]) => a <= t && t < b)) count++;
  return count;
}

const hours = fc
  .tuple(fc.integer({ min: 0, max: 1439 }), fc.integer({ min: 1, max: 900 }))
  .map(([a, n]) => ({ from: a, to: Math.min(1440, a + n) }));
const calendars = fc
  .record({
    zone: fc.constantFrom('Europe/Dublin', 'America/New_York', 'Australia/Lord_Howe', 'Asia/Kathmandu', 'America/Havana'),
    week: fc.array(fc.array(hours, { maxLength: 3 }), { minLength: 7, maxLength: 7 }),
    closed: fc.array(fc.constantFrom('2026-03-29', '2026-10-25', '2026-11-01', '2026-03-08', '2026-04-05'), { maxLength: 2 }),
  })
  .map(
    ({ zone, week, closed }) =>
      ({ kind: 'weekly', name: 'made', zone, week, dates: Object.fromEntries(closed.map((d) => [d, []])) }) as unknown as WeeklyCalendar,
  );
// Around the days on which those zones change their clocks.
const starts = fc
  .tuple(
    fc.constantFrom('2026-03-28T00:00:00Z', '2026-10-24T12:00:00Z', '2026-03-07T20:00:00Z', '2026-10-31T20:00:00Z', '2026-04-04T00:00:00Z'),
    fc.nat(100_000),
  )
  .map(([at, n]) => plusSeconds(parseInstant(at), n));

describe('working time', () => {
  it('counts what a slow second-by-second counter counts, over zones and clock changes', () => {
    fc.assert(
      fc.property(calendars, starts, fc.nat(150_000), (calendar, from, span) => {
        const to = plusSeconds(from, span);
        expect(workingSeconds(calendar, from, to)).toBe(countSlowly(calendar, from, to));
      }),
      { numRuns: 40 },
    );
  });

  it('adds as the exact inverse, at the earliest instant', () => {
    fc.assert(
      fc.property(calendars, starts, fc.nat(2_000_000), (calendar, from, seconds) => {
        const to = addWorkingSeconds(calendar, from, seconds);
        if (to === 'never') return expect(calendar.week.every((d) => d.length === 0)).toBe(true);
        expect(workingSeconds(calendar, from, to)).toBe(seconds);
        if (to > from) expect(workingSeconds(calendar, from, plusSeconds(to, -1))).toBe(seconds - 1);
        return undefined;
      }),
      { numRuns: 150 },
    );
  });

  it('is additive, and never later than the span it counted', () => {
    fc.assert(
      fc.property(calendars, starts, fc.nat(900_000), fc.nat(900_000), (calendar, a, n, m) => {
        const b = plusSeconds(a, n);
        const c = plusSeconds(b, m);
        expect(workingSeconds(calendar, a, c)).toBe(workingSeconds(calendar, a, b) + workingSeconds(calendar, b, c));
        const back = addWorkingSeconds(calendar, a, workingSeconds(calendar, a, c));
        expect(back === 'never' ? 0 : back).toBeLessThanOrEqual(c);
      }),
      { numRuns: 150 },
    );
  });

  it('carries Friday 16:45 and 90 minutes to Monday 09:15', () => {
    const due = addWorkingSeconds(dublin, parseInstant('2026-11-20T16:45:00Z'), 90 * 60);
    expect(due === 'never' ? due : formatInstant(due)).toBe('2026-11-23T09:15:00Z');
  });

  it('counts a day of 00:00 to 24:00 as 23 or 25 hours when clocks change', () => {
    const all = parseCalendar({ name: 'all', zone: 'Europe/Dublin', week: Array(7).fill(['00:00-24:00']) });
    const day = (a: string, b: string) => workingSeconds(all, parseInstant(a), parseInstant(b)) / 3600;
    expect(day('2026-03-29T00:00:00Z', '2026-03-29T23:00:00Z')).toBe(23);
    expect(day('2026-10-24T23:00:00Z', '2026-10-26T00:00:00Z')).toBe(25);
  });

  it('knows holidays, other hours, the round clock, and never', () => {
    expect(isHoliday(dublin, '2026-12-25' as never)).toBe(true);
    expect(workingSeconds(dublin, parseInstant('2026-12-24T00:00:00Z'), parseInstant('2026-12-26T00:00:00Z'))).toBe(3.5 * 3600);
    expect(workingSeconds(ROUND_THE_CLOCK, 100 as Instant, 50 as Instant)).toBe(0);
    expect(addWorkingSeconds(ROUND_THE_CLOCK, 100 as Instant, 50)).toBe(150);
    const once = parseCalendar({ name: 'once', zone: 'UTC', week: Array(7).fill([]), dates: { '2027-05-01': ['10:00-11:00'] } });
    expect(addWorkingSeconds(once, parseInstant('2026-01-01T00:00:00Z'), 3600)).toBe(parseInstant('2027-05-01T11:00:00Z'));
    expect(addWorkingSeconds(once, parseInstant('2026-01-01T00:00:00Z'), 3601)).toBe('never');
    expect(() => addWorkingSeconds(dublin, 0 as Instant, -1)).toThrow(RangeError);
  });

  it('names the day and the hours that cannot be', () => {
    expect(() => parseCalendar({ name: 'x', zone: 'UTC', week: [['9-5'], [], [], [], [], [], []] })).toThrow(
      'day 1: not hours within one date: "9-5"',
    );
    expect(() => parseCalendar({ name: 'x', zone: 'UTC', week: [] })).toThrow('7 days');
  });
});

describe('a calendar that changes', () => {
  it('counts each second by what held then, and both ways agree', () => {
    fc.assert(
      fc.property(
        fc.tuple(calendars, calendars, calendars),
        starts,
        fc.nat(300_000),
        fc.nat(150_000),
        fc.nat(150_000),
        (three, from, span, one, two) => {
          const [first, second, third] = three;
          const [to, changed, again] = [plusSeconds(from, span), plusSeconds(from, one), plusSeconds(from, one + two)];
          const calendar = replaceCalendar(replaceCalendar(first, changed, second), again, third);
          const part = (of: WeeklyCalendar, a: Instant, b: Instant) =>
            workingSeconds(of, Math.max(a, from) as Instant, Math.min(b, to) as Instant);
          const parts = part(first, from, changed) + part(second, changed, again) + part(third, again, to);
          expect(workingSeconds(calendar, from, to)).toBe(parts);
          const back = addWorkingSeconds(calendar, from, parts);
          if (back !== 'never') expect(workingSeconds(calendar, from, back)).toBe(parts);
        },
      ),
      { numRuns: 200 },
    );
  });

  it('keeps what was counted before, and the hours of dates that were over', () => {
    const shorter = parseCalendar({ name: 'short', zone: 'Europe/Dublin', week: [...Array(5).fill(['10:00-12:00']), [], []] });
    const noon = parseInstant('2026-11-24T12:00:00Z');
    const calendar = replaceCalendar(dublin, noon, shorter);
    expect(workingSeconds(calendar, parseInstant('2026-11-23T00:00:00Z'), noon)).toBe((9 + 3.5) * 3600);
    expect(workingSeconds(calendar, noon, parseInstant('2026-11-26T00:00:00Z'))).toBe(2 * 3600);
    expect([hoursOn(calendar, '2026-11-23' as never)[0]!.to, hoursOn(calendar, '2026-11-25' as never)[0]!.to]).toEqual([1050, 720]);
  });
});

describe('a calendar as it is typed', () => {
  const form = {
    name: 'Own',
    zone: 'Europe/Dublin',
    week: ['08:30 - 12:00, 13:00-17:30', '', '', '', '', '', ''],
    dates: [] as { date: string; name: string; hours: string }[],
  };

  it('is read, and written again as it was read', () => {
    const read = readCalendar({ ...form, dates: [{ date: '2026-12-25', name: 'Christmas Day', hours: '' }] });
    expect(isRefusal(read)).toBe(false);
    expect(typedCalendar(read as KeptCalendar)).toMatchObject({
      week: ['08:30-12:00, 13:00-17:30', '', '', '', '', '', ''],
      dates: [{ date: '2026-12-25', name: 'Christmas Day', hours: '' }],
    });
  });

  it.each([
    [{ ...form, week: ['9 to 5', '', '', '', '', '', ''] }, 'week', 'day 1: not hours within one date: "9 to 5"'],
    [{ ...form, zone: 'Nowhere/At-all' }, 'zone', 'Nowhere/At-all'],
    [{ ...form, dates: [{ date: '2026-02-30', name: 'x', hours: '' }] }, 'dates', '2026-02-30'],
    [
      {
        ...form,
        dates: [
          { date: '2026-02-03', name: 'x', hours: '' },
          { date: '2026-02-03', name: 'y', hours: '' },
        ],
      },
      'dates',
      'stands twice',
    ],
  ])('refuses what it cannot read, and names the place', (given, place, words) => {
    const read = readCalendar(given);
    expect(isRefusal(read) && read.fields?.[place]).toContain(words);
  });
});
