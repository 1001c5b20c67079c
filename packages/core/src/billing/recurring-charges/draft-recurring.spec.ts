import type { DuePeriod, Period } from '../../contracts';
import { type LocalDate, money, plusDays } from '../../ground';
import { SEAT_LINE } from '../../../testing/contract-samples';
import { DETAILS_TEXT } from '../charges';
import { draftRecurring, namesOfPeriod, sayPeriod } from '.';

const day = (text: string) => text as LocalDate;
const NOVEMBER: Period = { from: day('2026-11-01'), to: day('2026-12-01') };
const due = (more: Partial<DuePeriod>): DuePeriod => ({
  is: 'new',
  period: NOVEMBER,
  amount: money(38400, 'EUR'),
  worth: { amount: money(38400, 'EUR'), quantity: '12', price: '32', stretches: [], cost: null, why: [] },
  billed: money(0, 'EUR'),
  why: [{ rule: 'some rule' }],
  ...more,
});

describe('a period of a line as a charge', () => {
  it('is so many at their price, or an amount where it is a difference or was uneven', () => {
    const named = { line: 'Support per person', part: 0, details: null };
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
    expect(draftRecurring(due({}), { line: 'x'.repeat(600), part: 0, details: null }).description).toHaveLength(500);
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

describe('who was on a line, as its document says it', () => {
  const seat = (of: string, from: string, to: string | null = null) => ({
    of,
    name: of,
    from: day(from),
    to: to === null ? null : day(to),
  });
  const units = [
    seat('Ada', '2026-01-01'),
    seat('Bram', '2026-11-11'),
    seat('Cy', '2026-01-01', '2026-11-20'),
    seat('Dot', '2026-01-01', '2026-11-05'),
    seat('Dot', '2026-11-20'),
    seat('Eva', '2026-12-01'),
    seat('Fay', '2026-01-01', '2026-11-01'),
  ];
  it('is each once, with the days on which they came or went; of a difference only those who did', () => {
    const line = { ...SEAT_LINE, units };
    expect(namesOfPeriod(line, { is: 'new', period: NOVEMBER })).toBe(
      'Ada, Bram (from 2026-11-11), Cy (to 2026-11-19), Dot (to 2026-11-04, from 2026-11-20)',
    );
    expect(namesOfPeriod(line, { is: 'true-up', period: NOVEMBER })).toBe(
      'Bram (from 2026-11-11), Cy (to 2026-11-19), Dot (to 2026-11-04, from 2026-11-20)',
    );
    expect(namesOfPeriod({ ...line, units: units.slice(0, 1) }, { is: 'true-up', period: NOVEMBER })).toBeNull();
    // The line itself begins or ends within the period.
    expect(namesOfPeriod({ ...line, from: day('2026-11-25') }, { is: 'new', period: NOVEMBER })).toBe('Ada, Bram, Dot');
  });
  it('says how many more there are where they are too many to name', () => {
    const many = Array.from({ length: 9000 }, (_, n) => ({ ...seat(`Somebody ${n}`, '2026-01-01'), to: plusDays(NOVEMBER.from, 40) }));
    const said = namesOfPeriod({ ...SEAT_LINE, units: many }, { is: 'new', period: NOVEMBER })!;
    expect(said.length).toBeLessThanOrEqual(DETAILS_TEXT);
    const [, more] = / and (\d+) more$/.exec(said)!;
    expect(said.split(', ').length + Number(more)).toBe(9000);
  });
});
