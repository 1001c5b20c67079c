import fc from 'fast-check';
import type { Instant, Interval } from '../../ground';
import { openTime, overlapsOf } from '.';

const spans = fc.array(
  fc
    .tuple(fc.integer({ min: 0, max: 200 }), fc.integer({ min: 1, max: 40 }))
    .map(([from, n]): Interval => ({ from: (from * 60) as Instant, to: ((from + n) * 60) as Instant })),
  { maxLength: 6 },
);
const lies = (minute: number, all: readonly Interval[]) => all.filter((i) => i.from <= minute * 60 && minute * 60 < i.to).length;

describe('a day that is not whole', () => {
  it('agrees with counting minute by minute what is open', () => {
    fc.assert(
      fc.property(spans, spans, fc.integer({ min: 0, max: 260 }), (expected, recorded, now) => {
        const open = openTime(expected, recorded, (now * 60) as Instant);
        const missing = (m: number) => m < now && lies(m, expected) > 0 && lies(m, recorded) === 0;
        for (let m = 0; m < 260; m++) {
          if (lies(m, open)) expect(missing(m)).toBe(true);
          // Five minutes in a row that are missing are never left out.
          if ([0, 1, 2, 3, 4].every((k) => missing(m + k))) expect(lies(m, open)).toBe(1);
        }
      }),
    );
  });

  it('agrees with counting minute by minute what lies over each other', () => {
    fc.assert(
      fc.property(spans, (entries) => {
        const over = overlapsOf(entries);
        for (let m = 0; m < 260; m++) expect(lies(m, over)).toBe(lies(m, entries) >= 2 ? 1 : 0);
      }),
    );
  });
});
