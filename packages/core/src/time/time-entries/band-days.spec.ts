import fc from 'fast-check';
import { type Instant, type LocalDate, parseCalendar } from '../../ground';
import { bandDayAt, bandDays } from './band-days';

/** Hours twice a day, none on Sunday, a short Friday, and a holiday; in a zone that changes its clocks twice a year. */
const calendar = parseCalendar({
  name: 'Two shifts',
  zone: 'Europe/Dublin',
  week: [
    ['08:00-12:00', '13:00-17:00'],
    ['08:00-12:00', '13:00-17:00'],
    ['08:00-12:00', '13:00-17:00'],
    ['08:00-12:00', '13:00-17:00'],
    ['08:00-14:00'],
    ['10:00-12:00'],
    [],
  ],
  dates: { '2026-12-25': [] },
});
const DAY = 86_400;
const at = (text: string) => (Date.parse(text) / 1000) as Instant;
const shown = (text: string) =>
  bandDayAt(calendar, at(text)).bands.map((b) => `${new Date(b.from * 1000).toISOString().slice(11, 16)} ${b.band}`);

describe('the time bands of a date', () => {
  it('lie side by side from midnight to midnight, and no two of one kind touch', () => {
    fc.assert(
      fc.property(fc.integer({ min: at('2026-01-01T00:00:00Z') / DAY, max: at('2027-12-31T00:00:00Z') / DAY }), (day) => {
        const days = bandDays(calendar, day);
        expect(days[0]!.from).toBeLessThanOrEqual(day * DAY);
        expect(days.at(-1)!.to).toBeGreaterThanOrEqual((day + 1) * DAY);
        for (const [i, d] of days.entries()) {
          if (i) expect(d.from).toBe(days[i - 1]!.to);
          expect([d.bands[0]!.from, d.bands.at(-1)!.to]).toEqual([d.from, d.to]);
          for (const [k, b] of d.bands.entries()) {
            expect(b.to).toBeGreaterThan(b.from);
            if (k) expect([b.from, b.band === d.bands[k - 1]!.band]).toEqual([d.bands[k - 1]!.to, false]);
          }
        }
      }),
    );
  });

  it('hold every instant once, its first second and not its last', () => {
    fc.assert(
      fc.property(fc.integer({ min: at('2026-01-01T00:00:00Z'), max: at('2027-12-31T00:00:00Z') }), (t) => {
        const day = bandDayAt(calendar, t as Instant);
        expect(day.from <= t && t < day.to).toBe(true);
        expect([bandDayAt(calendar, day.from).date, bandDayAt(calendar, (day.to - 1) as Instant).date]).toEqual([day.date, day.date]);
        expect(bandDayAt(calendar, day.to).date).not.toBe(day.date);
      }),
    );
  });

  it('are working hours, the rest of the day, and a holiday whole', () => {
    expect(shown('2026-11-24T10:00:00Z')).toEqual([
      '00:00 out of hours',
      '08:00 working hours',
      '12:00 out of hours',
      '13:00 working hours',
      '17:00 out of hours',
    ]);
    expect(shown('2026-11-29T10:00:00Z')).toEqual(['00:00 out of hours']);
    expect(shown('2026-12-25T10:00:00Z')).toEqual(['00:00 holiday']);
    // In summer the zone is an hour ahead of UTC.
    expect(shown('2026-07-03T10:00:00Z')).toEqual(['23:00 out of hours', '07:00 working hours', '13:00 out of hours']);
  });

  it('are 23 and 25 hours long where the clocks change', () => {
    const hours = (text: string) => {
      const { from, to, date } = bandDayAt(calendar, at(text));
      return [date, (to - from) / 3600];
    };
    expect(hours('2026-03-29T10:00:00Z')).toEqual(['2026-03-29' as LocalDate, 23]);
    expect(hours('2026-10-25T10:00:00Z')).toEqual(['2026-10-25' as LocalDate, 25]);
  });

  it('are worked out once for a calendar', () => {
    expect(bandDays(calendar, 20_781)).toBe(bandDays(calendar, 20_781));
  });
});
