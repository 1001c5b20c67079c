import { money } from '@core/ground';
import type { RunReason } from '@core/billing';
import { sayDiffers, sayReasons } from './run-words';

const eur = (minor: number) => money(minor, 'EUR');
const seats = (now: string): RunReason => ({ is: 'count', line: 'Seats', was: '12', now, by: eur(3000) });

describe('a row of a run', () => {
  it('says how much more or less it is', () => {
    expect([sayDiffers(eur(2133)), sayDiffers(eur(-58_113)), sayDiffers(eur(0))]).toEqual(['+€21.33', '−€581.13', 'the same']);
  });

  it('gives the largest reasons and counts the rest', () => {
    expect(sayReasons({ reasons: [] })).toBe('as last time');
    expect(sayReasons({ reasons: [seats('13')] }, 2)).toBe('Seats: 12 → 13');
    const reasons = ['13', '14', '15', '16'].map(seats);
    expect(sayReasons({ reasons }, 3)).toMatch(/; Seats: 12 → 15; and 1 more reason$/);
    expect(sayReasons({ reasons }, 2)).toMatch(/; and 2 more reasons$/);
    expect(sayReasons({ reasons })).not.toContain('more');
  });
});
