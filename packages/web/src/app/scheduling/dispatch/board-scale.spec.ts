import fc from 'fast-check';
import { BoardScale } from './board-scale';

const day = (n: number) => ({ day: `2026-11-${24 + n}`, from: `2026-11-${24 + n}T07:00:00Z`, to: `2026-11-${24 + n}T19:00:00Z` });

describe('where instants lie on the board', () => {
  it('is by the hours shown, with no room for nights', () => {
    const scale = new BoardScale({ days: [day(0), day(1)] });
    expect(scale.share(Date.parse('2026-11-24T13:00:00Z'))).toBe(25);
    expect(scale.share(Date.parse('2026-11-24T22:00:00Z'))).toBe(50);
    expect(scale.share(Date.parse('2026-11-25T13:00:00Z'))).toBe(75);
    expect(scale.share(Date.parse('2026-11-27T13:00:00Z'))).toBe(100);
    expect(scale.width(Date.parse('2026-11-24T18:00:00Z'), Date.parse('2026-11-25T08:00:00Z'))).toBeCloseTo(100 / 12);
    expect([scale.shows(Date.parse('2026-11-24T22:00:00Z')), scale.shows(Date.parse('2026-11-25T09:00:00Z'))]).toEqual([false, true]);
  });

  it('leads back from a place to its instant', () => {
    const days = fc.integer({ min: 1, max: 5 });
    fc.assert(
      fc.property(days, fc.double({ min: 0, max: 99.99, noNaN: true }), (count, share) => {
        const scale = new BoardScale({ days: Array.from({ length: count }, (_, n) => day(n)) });
        expect(scale.share(scale.at(share))).toBeCloseTo(share, 6);
      }),
    );
  });
});
