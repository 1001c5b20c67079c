import fc from 'fast-check';
import type { Instant } from '../../ground';
import { canBeTaken, heldUntil, LAST_CALL_SECONDS, startsIn } from '.';

const seconds = fc.integer({ min: 0, max: 10_000_000 }).map((s) => s as Instant);

describe('openings', () => {
  it('are held as long as the set is, and never past their own last call', () => {
    expect(heldUntil(3600 as Instant, 86_400 as Instant)).toBe(3600);
    expect(heldUntil(86_400 as Instant, 7200 as Instant)).toBe(7200 - 1800);
    fc.assert(
      fc.property(seconds, seconds, seconds, (until, begins, now) => {
        const held = heldUntil(until, begins);
        expect([until, begins - LAST_CALL_SECONDS]).toContain(held);
        expect(held).toBeLessThanOrEqual(Math.min(until, begins - LAST_CALL_SECONDS));
        expect(canBeTaken(until, begins, now)).toBe(now <= until && now + LAST_CALL_SECONDS <= begins);
      }),
    );
  });

  it('are several where a gap is long: each within it, a step after the one before, to its end', () => {
    const parts = startsIn({ from: 0 as Instant, to: (5 * 3600) as Instant }, 7200);
    expect(parts.map((p) => [p.from / 3600, p.to / 3600])).toEqual([
      [0, 5],
      [2, 5],
      [4, 5],
    ]);
    fc.assert(
      fc.property(seconds, fc.integer({ min: 1, max: 90_000 }), fc.integer({ min: 60, max: 20_000 }), (from, length, step) => {
        const gap = { from, to: (from + length) as Instant };
        const all = startsIn(gap, step);
        expect(all[0]).toEqual(gap);
        for (const [n, part] of all.entries()) {
          expect(part.to).toBe(gap.to);
          expect(part.from).toBeLessThan(gap.to);
          expect(part.from - from).toBe(n * step);
        }
        expect(all.at(-1)!.from + step).toBeGreaterThanOrEqual(gap.to);
      }),
    );
  });
});
