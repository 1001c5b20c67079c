import fc from 'fast-check';
import { parseLocalDate, plusDays, weekdayOf } from '../../ground';
import { repeatDays, REPEATS } from '.';

describe('the dates of a booking that repeats', () => {
  it('are as a calendar says', () => {
    const on = (first: string, repeat: (typeof REPEATS)[number], times: number) => repeatDays(parseLocalDate(first), repeat, times);
    expect(on('2026-11-24', 'no', 9)).toEqual(['2026-11-24']);
    expect(on('2026-11-26', 'weekday', 4)).toEqual(['2026-11-26', '2026-11-27', '2026-11-30', '2026-12-01']);
    expect(on('2026-11-24', 'day', 3)).toEqual(['2026-11-24', '2026-11-25', '2026-11-26']);
    expect(on('2026-11-24', 'week', 3)).toEqual(['2026-11-24', '2026-12-01', '2026-12-08']);
    expect(on('2026-11-24', 'two weeks', 3)).toEqual(['2026-11-24', '2026-12-08', '2026-12-22']);
    expect(on('2026-12-31', 'month', 4)).toEqual(['2026-12-31', '2027-01-31', '2027-02-28', '2027-03-31']);
  });

  it('rise, begin with the first, and are as many as asked', () => {
    const day = fc.integer({ min: 0, max: 2000 }).map((n) => plusDays(parseLocalDate('2025-01-01'), n));
    fc.assert(
      fc.property(day, fc.constantFrom(...REPEATS), fc.integer({ min: 1, max: 30 }), (first, repeat, times) => {
        const days = repeatDays(first, repeat, times);
        expect([days[0], days.length]).toEqual([first, repeat === 'no' ? 1 : times]);
        expect([...days].sort()).toEqual(days);
        expect(new Set(days).size).toBe(days.length);
        if (repeat === 'weekday') expect(days.slice(1).every((d) => weekdayOf(d) <= 5)).toBe(true);
      }),
    );
  });
});
