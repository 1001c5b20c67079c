import fc from 'fast-check';
import { instantAt, parseLocalDate, parseZone, plusDays, secondsIn, weekdayOf, type LocalDate } from '../../ground';
import { workingTime } from '.';

const zone = parseZone('Europe/Dublin');
const monday = parseLocalDate('2026-11-23');
const week = [...Array<string[]>(4).fill(['08:00-12:00', '13:00-17:00']), ['08:00-12:00'], [], []];

describe('when somebody works', () => {
  it('is the week, a shift instead of it, and nothing on a public holiday without a shift', () => {
    const on = (shifts: Record<string, string[]>, holidays: Record<string, string>) =>
      secondsIn(workingTime({ zone, week, shifts, holidays }, monday, plusDays(monday, 1))) / 3600;
    expect(on({}, {})).toBe(8);
    expect(on({ '2026-11-23': ['14:00-22:00', '23:00-24:00'] }, {})).toBe(9);
    expect(on({ '2026-11-23': [] }, {})).toBe(0);
    expect(on({}, { '2026-11-23': 'harbour day' })).toBe(0);
    expect(on({ '2026-11-23': ['10:00-12:00'] }, { '2026-11-23': 'harbour day' })).toBe(2);
  });

  it('is the same whether asked for day by day or at once, over changes of the clocks too', () => {
    const hours = fc.constantFrom([], ['09:00-17:00'], ['00:00-08:00', '20:00-24:00'], ['01:00-03:00']);
    const some = fc.dictionary(
      fc.integer({ min: 0, max: 20 }).map((n) => plusDays(parseLocalDate('2026-03-20'), n)),
      hours,
      { maxKeys: 6 },
    );
    fc.assert(
      fc.property(some, some, (shifts, off) => {
        const pattern = { zone, week, shifts, holidays: Object.fromEntries(Object.keys(off).map((d) => [d, 'a holiday'])) };
        const from = parseLocalDate('2026-03-20');
        const days = Array.from({ length: 21 }, (_, n) => plusDays(from, n) as LocalDate);
        const one = days.map((d) => secondsIn(workingTime(pattern, d, plusDays(d, 1))));
        expect(secondsIn(workingTime(pattern, from, plusDays(from, 21)))).toBe(one.reduce((a, s) => a + s, 0));
        days.forEach((d, i) => {
          const own = pattern.shifts[d] ?? (pattern.holidays[d] ? [] : week[weekdayOf(d) - 1]!);
          const slow = own.reduce((sum, h) => {
            const [a, b] = h.split('-').map((t) => Number(t.slice(0, 2)) * 60 + Number(t.slice(3)));
            return sum + Math.max(0, instantAt(d, b!, zone) - instantAt(d, a!, zone));
          }, 0);
          expect(one[i]).toBe(slow);
        });
      }),
    );
  });
});
