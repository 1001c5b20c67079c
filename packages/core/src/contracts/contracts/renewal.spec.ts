import fc from 'fast-check';
import { type LocalDate, plusDays } from '../../ground';
import { goesOnUntil, noticeBy } from '.';

const day = (text: string) => text as LocalDate;

describe('a contract that goes on', () => {
  it('does so for whole terms, to an end that a month has', () => {
    const until = (to: string, termMonths: number, on: string) => goesOnUntil(day(to), { termMonths, on: day(on) });
    expect(until('2027-01-21', 12, '2027-01-21')).toBe('2028-01-21');
    expect(until('2027-01-21', 12, '2027-01-20')).toBe('2027-01-21');
    expect(until('2027-01-31', 1, '2027-01-31')).toBe('2027-02-28');
    expect(until('2024-01-01', 12, '2027-06-01')).toBe('2028-01-01');
  });

  it('can be given notice of until so many days before its last', () => {
    expect(noticeBy(day('2027-01-01'), 30)).toBe('2026-12-01');
    expect(noticeBy(day('2027-01-01'), 0)).toBe('2026-12-31');
  });

  it('holds on the day, and would not with a term less', () => {
    fc.assert(
      fc.property(fc.nat(2000), fc.integer({ min: 1, max: 36 }), fc.nat(2000), (offset, termMonths, later) => {
        const to = plusDays(day('2024-01-01'), offset);
        const on = plusDays(to, later);
        const until = goesOnUntil(to, { termMonths, on });
        expect(until > on).toBe(true);
        expect(goesOnUntil(to, { termMonths, on: plusDays(until, -1) })).toBe(until);
      }),
    );
  });
});
