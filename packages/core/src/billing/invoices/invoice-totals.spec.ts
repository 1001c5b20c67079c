import fc from 'fast-check';
import { Big } from 'big.js';
import type { Money } from '../../ground';
import { invoiceTotals, taxKey, totalsOf } from './invoice-totals';

const eur = (minor: number): Money => ({ minor, currency: 'EUR' });
const line = (minor: number, percent: string, category: 'S' | 'Z' | 'E' = 'S') =>
  ({ net: eur(minor), tax: { category, percent } }) as never;

describe('the totals of an invoice', () => {
  it('take tax on the sum of each rate, rounded once, half a cent going up', () => {
    const { groups, net, tax, gross } = invoiceTotals([line(150, '23'), line(150, '23.00'), line(50, '13.5')], 'EUR');
    expect(groups.map((g) => [g.tax.percent, g.base.minor, g.amount.minor])).toEqual([
      ['23', 300, 69],
      ['13.5', 50, 7],
    ]);
    expect([net.minor, tax.minor, gross.minor]).toEqual([350, 76, 426]);
    // Each line by itself would have come to 35 and 35.
    expect(invoiceTotals([line(10, '5')], 'EUR').tax.minor).toBe(1);
  });

  it('go by category, and by falling rate within one', () => {
    const { groups } = invoiceTotals([line(1, '0', 'Z'), line(1, '9'), line(1, '13.5'), line(1, '0', 'E'), line(1, '23')], 'EUR');
    expect(groups.map((g) => `${g.tax.category} ${g.tax.percent}`)).toEqual(['E 0', 'S 23', 'S 13.5', 'S 9', 'Z 0']);
  });

  it('add up, whatever the lines and in whatever order they come', () => {
    const lines = fc.array(
      fc.record({ minor: fc.integer({ min: -10_000_00, max: 10_000_00 }), percent: fc.constantFrom('23', '13.5', '9', '4.8', '23.0') }),
      { maxLength: 40 },
    );
    fc.assert(
      fc.property(lines, (given) => {
        const forwards = invoiceTotals(
          given.map((l) => line(l.minor, l.percent)),
          'EUR',
        );
        const backwards = invoiceTotals(
          [...given].reverse().map((l) => line(l.minor, l.percent)),
          'EUR',
        );
        const figures = (t: typeof forwards) => [t.net, t.tax, t.gross, ...t.groups.map((g) => [taxKey(g.tax), g.base, g.amount])];
        expect(figures(backwards)).toEqual(figures(forwards));
        expect(forwards.net.minor).toBe(given.reduce((sum, l) => sum + l.minor, 0));
        expect(forwards.gross.minor).toBe(forwards.net.minor + forwards.tax.minor);
        for (const { tax, base, amount } of forwards.groups) {
          const exact = new Big(base.minor).times(tax.percent).div(100);
          expect(exact.minus(amount.minor).abs().lte(0.5)).toBe(true);
        }
      }),
    );
  });

  it('of no line are nothing', () => {
    expect(invoiceTotals([], 'EUR')).toEqual({ net: eur(0), tax: eur(0), gross: eur(0), groups: [] });
    expect(totalsOf([], 'JPY')).toMatchObject({ net: { minor: 0, currency: 'JPY' } });
  });

  it('know a rate however it is written', () => {
    expect(taxKey({ category: 'S', percent: '23.00' })).toBe(taxKey({ category: 'S', percent: '23' }));
    expect(taxKey({ category: 'S', percent: '23' })).not.toBe(taxKey({ category: 'Z', percent: '23' }));
  });
});
