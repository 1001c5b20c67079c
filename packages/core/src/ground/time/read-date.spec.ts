import fc from 'fast-check';
import { daysBetween, type LocalDate, parseLocalDate, plusDays, readDate, readWall, weekdayOf } from '.';

// A Tuesday.
const TODAY = parseLocalDate('2026-11-24');
const read = (typed: string) => readDate(typed, TODAY);
const dates = fc.integer({ min: -20_000, max: 20_000 }).map((days) => plusDays(TODAY, days));
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

describe('a date that is typed', () => {
  it.each([
    ['2026-12-01', '2026-12-01'],
    ['2026-1-5', '2026-01-05'],
    ['today', '2026-11-24'],
    [' Tomorrow ', '2026-11-25'],
    ['yesterday', '2026-11-23'],
    ['+3', '2026-11-27'],
    ['-30', '2026-10-25'],
    ['− 1', '2026-11-23'],
    ['fri', '2026-11-27'],
    ['Friday', '2026-11-27'],
    ['tue', '2026-12-01'],
    ['next mon', '2026-11-30'],
    ['last tue', '2026-11-17'],
    ['last wed', '2026-11-18'],
    ['1.12.', '2026-12-01'],
    ['1.12', '2026-12-01'],
    ['1/12/27', '2027-12-01'],
    ['01.12.2025', '2025-12-01'],
    ['1.2', '2027-02-01'],
    ['1.7', '2026-07-01'],
    ['1 dec', '2026-12-01'],
    ['1. December', '2026-12-01'],
    ['1dec', '2026-12-01'],
    ['1 Dec, 2027', '2027-12-01'],
    ['Dec 1', '2026-12-01'],
    ['dec 1, 2027', '2027-12-01'],
    ['1 Nov 2026', '2026-11-01'],
    ['24', '2026-11-24'],
    ['3.', '2026-12-03'],
    ['20', '2026-11-20'],
    ['29 feb 2028', '2028-02-29'],
    ['31', '2026-10-31'],
  ])('%s is %s', (typed, date) => expect(read(typed)).toBe(date));

  it.each([
    '',
    'soon',
    '31.2',
    '31.2.2026',
    '0',
    '32',
    '29 feb 2026',
    '1 xyz',
    'mo',
    '13/13',
    '2026-13-01',
    '1.12.026',
    'last',
    'x'.repeat(50),
  ])('"%s" is none', (typed) => expect(read(typed)).toBeUndefined());

  it('is read back from each way that it is written in', () => {
    fc.assert(
      fc.property(dates, (date) => {
        const [year, month, day] = date.split('-').map(Number) as [number, number, number];
        const ways = [
          date,
          `${day}.${month}.${year}`,
          `${day}/${month}/${year}`,
          `${day} ${MONTHS[month - 1]} ${year}`,
          `${MONTHS[month - 1]} ${day}, ${year}`,
        ];
        for (const typed of ways) expect(read(typed)).toBe(date);
      }),
    );
  });

  it('without a year is the nearest such date, without a month the nearest such day', () => {
    const closest = (fits: (date: string) => boolean): LocalDate => {
      for (let away = 0; ; away++) for (const days of [away, -away]) if (fits(plusDays(TODAY, days))) return plusDays(TODAY, days);
    };
    for (let days = 0; days < 366; days++) {
      const date = plusDays(TODAY, days - 200);
      if (date.endsWith('-02-29')) continue;
      const [, month, day] = date.split('-').map(Number) as [number, number, number];
      expect(read(`${day}.${month}`)).toBe(closest((d) => d.endsWith(date.slice(4))));
      if (day <= 30)
        expect(daysBetween(TODAY, read(String(day))!)).toBe(
          daysBetween(
            TODAY,
            closest((d) => d.endsWith(date.slice(7))),
          ),
        );
    }
  });

  it('as a weekday is within the next seven days, or the last', () => {
    for (const [n, name] of ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'].entries())
      for (const [typed, sign] of [
        [name, 1],
        [`last ${name}`, -1],
      ] as const) {
        const away = daysBetween(TODAY, read(typed)!) * sign;
        expect([weekdayOf(read(typed)!), away >= 1 && away <= 7]).toEqual([n + 1, true]);
      }
  });
});

describe('a moment that is typed', () => {
  const wall = (typed: string) => readWall(typed, '2026-11-20T10:40', TODAY);
  it.each([
    ['tomorrow 16:30', '2026-11-25T16:30'],
    ['1 Dec, 9:00', '2026-12-01T09:00'],
    ['1 Dec 2026, 09:00', '2026-12-01T09:00'],
    ['2026-12-01T09:00', '2026-12-01T09:00'],
    ['16:30', '2026-11-20T16:30'],
    ['fri', '2026-11-27T10:40'],
    ['+1 0:05', '2026-11-25T00:05'],
  ])('%s is %s', (typed, moment) => expect(wall(typed)).toBe(moment));
  it.each(['', 'soon 16:30', '24:00', '9:60', 'tomorrow 9', `${' '.repeat(60)}x 9:00`])('"%s" is none', (typed) =>
    expect(wall(typed)).toBeUndefined(),
  );
});
