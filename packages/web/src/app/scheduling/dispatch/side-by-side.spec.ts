import fc from 'fast-check';
import { sideBySide } from './side-by-side';

const blocks = fc.array(
  fc.tuple(fc.integer({ min: 0, max: 100 }), fc.integer({ min: 1, max: 30 })).map(([from, length]) => ({ from, to: from + length })),
  { maxLength: 20 },
);
const touch = (a: { from: number; to: number }, b: { from: number; to: number }) => a.from < b.to && b.from < a.to;

describe('blocks of a day', () => {
  it('lie side by side where they overlap, and have the whole width where they are alone', () => {
    fc.assert(
      fc.property(blocks, (all) => {
        const placed = sideBySide(all);
        expect(placed).toHaveLength(all.length);
        placed.forEach((a, i) => {
          expect(a.left >= 0 && a.left + a.width <= 100.0001).toBe(true);
          const others = placed.filter((_, j) => j !== i);
          if (!others.some((b) => touch(a, b))) expect(a).toMatchObject({ left: 0, width: 100 });
          for (const b of others.filter((o) => touch(a, o)))
            expect(a.left + a.width <= b.left + 0.0001 || b.left + b.width <= a.left + 0.0001).toBe(true);
        });
      }),
    );
  });

  it('is worked out by hand for three', () => {
    const [long, first, second] = sideBySide([
      { from: 0, to: 10 },
      { from: 0, to: 5 },
      { from: 5, to: 10 },
    ]);
    expect([long, first, second].map((b) => [b!.left, b!.width])).toEqual([
      [0, 50],
      [50, 50],
      [50, 50],
    ]);
  });
});
