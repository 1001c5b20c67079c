import fc from 'fast-check';
import { type Instant, parseInstant, plusSeconds } from '../../ground';
import { type ClockReading, drawClock, type Segment } from '.';

const START = parseInstant('2026-11-24T09:00:00Z');

/** A reading as far as a strip shows it: segments one after the other, each with what it did and for how long. */
function reading(target: number, did: readonly (readonly [Segment['did'], number])[]): ClockReading {
  let from: Instant = START;
  const segments = did.map(([what, seconds]): Segment => {
    const to = plusSeconds(from, seconds);
    const segment = { from, to, did: what, seconds: what === 'ran' ? seconds : 0 };
    from = to;
    return segment;
  });
  const elapsed = segments.reduce((sum, s) => sum + s.seconds, 0);
  return { target, elapsed, remaining: target - elapsed, segments } as unknown as ClockReading;
}
const widths = (r: ClockReading) => drawClock(r).parts.map((p) => [p.did, Number(p.width.toFixed(2))]);
const notch = (r: ClockReading) => Number(drawClock(r).notch.toFixed(2));

describe('the strip of a clock', () => {
  it('has its notch at 72 of 100 until it is late, and is filled as far as it ran', () => {
    expect([widths(reading(100, [['ran', 50]])), notch(reading(100, [['ran', 50]]))]).toEqual([[['ran', 36]], 72]);
    // At its target to the second, nothing is late.
    expect([widths(reading(100, [['ran', 100]])), notch(reading(100, [['ran', 100]]))]).toEqual([[['ran', 72]], 72]);
    expect([widths(reading(100, [])), notch(reading(100, []))]).toEqual([[], 72]);
  });

  it('gives the tail its room once it is late', () => {
    const late = reading(100, [['ran', 150]]);
    expect([widths(late), notch(late)]).toEqual([
      [
        ['ran', 66.67],
        ['late', 33.33],
      ],
      66.67,
    ]);
    const twice = reading(60, [
      ['ran', 60],
      ['stopped', 1000],
      ['ran', 60],
    ]);
    expect(widths(twice)).toEqual([
      ['ran', 50],
      ['late', 50],
    ]);
    expect(notch(reading(1000, [['ran', 1001]]))).toBe(99);
  });

  it('draws each hold six wide, and more than four of them as wide as four together', () => {
    const held = reading(100, [
      ['ran', 25],
      ['held', 500],
      ['ran', 25],
    ]);
    expect([widths(held), notch(held)]).toEqual([
      [
        ['ran', 16.92],
        ['held', 6],
        ['ran', 16.92],
      ],
      73.68,
    ]);
    const often = reading(
      100,
      [1, 2, 3, 4, 5].map((n) => ['held', n]),
    );
    expect([widths(often).map(([, width]) => width), notch(often)]).toEqual([[4.8, 4.8, 4.8, 4.8, 4.8], 78.72]);
  });

  it('never draws past its end, fills it when late, and shows what ran in proportion', () => {
    const step = fc.tuple(fc.constantFrom<Segment['did']>('ran', 'held', 'stopped'), fc.integer({ min: 1, max: 100_000 }));
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 200_000 }), fc.array(step, { maxLength: 12 }), (target, did) => {
        const of = reading(target, did);
        const { parts, notch: at } = drawClock(of);
        const sum = (what?: string) => parts.filter((p) => !what || p.did === what).reduce((a, p) => a + p.width, 0);
        expect(sum()).toBeLessThanOrEqual(100 + 1e-6);
        expect(at).toBeLessThanOrEqual(99);
        const late = Math.max(0, of.elapsed - target);
        if (late > 0) expect(sum()).toBeCloseTo(100, 6);
        if (of.elapsed > 0) expect(sum('late') * of.elapsed).toBeCloseTo(late * (sum('late') + sum('ran')), 3);
        expect(parts.filter((p) => p.did === 'held')).toHaveLength(did.filter(([what]) => what === 'held').length);
      }),
    );
  });
});
