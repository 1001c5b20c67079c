import fc from 'fast-check';
import { daysBetween, type LocalDate, money, plusDays, sumMoney } from '../../ground';
import { ageOf, AGES, expectedCash, habitOf } from '.';

const day = (text: string) => text as LocalDate;
const TODAY = day('2026-11-24');

describe('ageing', () => {
  it('puts an invoice into the column of the days since it was due', () => {
    const age = (days: number) => ageOf(plusDays(TODAY, -days), TODAY);
    expect([-5, 0, 1, 30, 31, 60, 61, 90, 91, 4000].map(age)).toEqual([
      ...['not due', 'not due', '1 to 30', '1 to 30', '31 to 60', '31 to 60', '61 to 90', '61 to 90', 'over 90', 'over 90'],
    ]);
    expect(AGES).toHaveLength(5);
  });

  it('takes the middle of what was, and of two the earlier', () => {
    expect([habitOf([]), habitOf([4]), habitOf([9, -2]), habitOf([30, 1, 2])]).toEqual([
      undefined,
      { days: 4, of: 1 },
      { days: -2, of: 2 },
      { days: 2, of: 3 },
    ]);
  });

  it('expects each cent in one week, later, or on no day that is known', () => {
    const some = fc.array(
      fc.record({ minor: fc.integer({ min: 1, max: 9999 }), due: fc.integer({ min: -120, max: 120 }), of: fc.constantFrom('a', 'b') }),
    );
    fc.assert(
      fc.property(some, fc.integer({ min: -10, max: 60 }), fc.integer({ min: 1, max: 8 }), (owed, late, weeks) => {
        const invoices = owed.map((o) => ({ left: money(o.minor, 'EUR'), dueOn: plusDays(TODAY, o.due), clientId: o.of }));
        const habit = (clientId: string) => (clientId === 'a' ? late : 0);
        const cash = expectedCash(invoices, { today: TODAY, weeks, habit }, 'EUR');
        const all = sumMoney([...cash.weeks.map((w) => w.amount), cash.later, cash.unknown.amount], 'EUR');
        expect(all).toEqual(
          sumMoney(
            invoices.map((i) => i.left),
            'EUR',
          ),
        );
        for (const [n, week] of cash.weeks.entries()) {
          const slow = invoices.filter((i) => {
            const on = plusDays(i.dueOn, habit(i.clientId));
            return on >= TODAY && daysBetween(week.from, on) >= 0 && daysBetween(week.from, on) < 7;
          });
          expect([week.amount, week.invoices, week.from]).toEqual([
            sumMoney(
              slow.map((i) => i.left),
              'EUR',
            ),
            slow.length,
            plusDays(day('2026-11-23'), 7 * n),
          ]);
        }
      }),
    );
  });
});
