import fc from 'fast-check';
import { money } from '../../ground';
import { allocateMoney, paymentState } from '.';

const EUR = (minor: number) => money(minor, 'EUR');

describe('payments', () => {
  it('says where a document stands', () => {
    const state = (settled: number, daysAfterDue: number) =>
      paymentState({ kind: 'invoice', gross: EUR(100), settled: EUR(settled), daysAfterDue });
    expect([state(0, 0), state(0, 3), state(40, 0), state(100, 9), state(150, 9)].map((s) => s.is)).toEqual([
      'open',
      'overdue',
      'part paid',
      'paid',
      'paid',
    ]);
    expect(state(40, 3)).toEqual({ is: 'overdue', left: EUR(60), days: 3 });
    expect(state(40, -3)).toEqual({ is: 'part paid', left: EUR(60) });
    const credit = (settled: number) => paymentState({ kind: 'credit note', gross: EUR(100), settled: EUR(settled), daysAfterDue: 30 });
    expect([credit(0), credit(99), credit(100)]).toEqual([
      { is: 'credit left', left: EUR(100) },
      { is: 'credit left', left: EUR(1) },
      { is: 'credit used' },
    ]);
  });

  it('settles in order as far as the money goes, and loses none of it', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 100_000 }),
        fc.array(fc.integer({ min: -500, max: 50_000 }), { maxLength: 8 }),
        (paid, lefts) => {
          const invoices = lefts.map((left, n) => ({ id: `i${n}`, left: EUR(left) }));
          const { settled, over } = allocateMoney(EUR(paid), invoices);
          expect(settled.reduce((sum, s) => sum + s.amount.minor, over.minor)).toBe(paid);
          expect(over.minor).toBeGreaterThanOrEqual(0);
          // Cent by cent, each to the first invoice that still takes one.
          const slow = lefts.map((left) => ({ left, got: 0 }));
          for (let cent = 0; cent < Math.min(paid, 200_000); cent++) {
            const first = slow.find((s) => s.got < s.left);
            if (!first) break;
            first.got++;
          }
          expect(invoices.map(({ id }) => settled.find((s) => s.id === id)?.amount.minor ?? 0)).toEqual(slow.map((s) => s.got));
        },
      ),
      { numRuns: 60 },
    );
  });
});
