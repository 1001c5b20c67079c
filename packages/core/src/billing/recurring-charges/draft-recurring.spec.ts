import type { DuePeriod, Period } from '../../contracts';
import { type LocalDate, money } from '../../ground';
import { draftRecurring, sayPeriod } from '.';

const day = (text: string) => text as LocalDate;
const NOVEMBER: Period = { from: day('2026-11-01'), to: day('2026-12-01') };
const due = (more: Partial<DuePeriod>): DuePeriod => ({
  is: 'new',
  period: NOVEMBER,
  amount: money(38400, 'EUR'),
  worth: { amount: money(38400, 'EUR'), quantity: '12', price: '32', stretches: [], why: [] },
  billed: money(0, 'EUR'),
  why: [{ rule: 'some rule' }],
  ...more,
});

describe('a period of a line as a charge', () => {
  it('is so many at their price, or an amount where it is a difference or was uneven', () => {
    const named = { line: 'Support per person', part: 0 };
    expect(draftRecurring(due({}), named)).toMatchObject({
      cause: 'recurring',
      kind: 'recurring',
      description: 'Support per person, November 2026',
      quantity: '12',
      unitPrice: '32',
      net: money(38400, 'EUR'),
      marks: [],
      why: [{ rule: 'some rule' }],
    });
    const uneven = due({ amount: money(40533, 'EUR'), worth: { ...due({}).worth, quantity: '1', price: '405.33' } });
    expect(draftRecurring(uneven, named)).toMatchObject({ quantity: '1', unitPrice: '405.33' });
    expect(draftRecurring(due({ is: 'true-up', amount: money(2133, 'EUR') }), { ...named, part: 1 })).toMatchObject({
      description: 'Support per person, November 2026, difference',
      part: 1,
      quantity: '1',
      unitPrice: '21.33',
      marks: ['true-up'],
    });
    expect(draftRecurring(due({ is: 'true-up', amount: money(-3200, 'EUR') }), named)).toMatchObject({
      quantity: '-1',
      unitPrice: '32',
      net: money(-3200, 'EUR'),
    });
    expect(draftRecurring(due({}), { line: 'x'.repeat(600), part: 0 }).description).toHaveLength(500);
  });

  it('names its period', () => {
    const said = (from: string, to: string) => sayPeriod({ from: day(from), to: day(to) });
    expect([said('2026-02-01', '2026-03-01'), said('2026-10-01', '2027-01-01'), said('2026-11-11', '2026-12-11')]).toEqual([
      'February 2026',
      '1 October 2026 to 31 December 2026',
      '11 November 2026 to 10 December 2026',
    ]);
  });
});
