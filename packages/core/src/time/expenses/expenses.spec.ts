import fc from 'fast-check';
import { Big } from 'big.js';
import { money } from '../../ground';
import { chargeOfExpense, worthOfDistance, worthOfExpense } from '.';

const eur = (minor: number) => money(minor, 'EUR');

describe('what an expense is worth', () => {
  it('takes the tax out of what was paid', () => {
    expect(worthOfExpense({ paid: eur(1230), exchange: null, taxPercent: '23' }, 'EUR')).toMatchObject({
      gross: eur(1230),
      tax: eur(230),
      net: eur(1000),
    });
    expect(worthOfExpense({ paid: eur(999), exchange: null, taxPercent: '13.5' }, 'EUR')).toMatchObject({ tax: eur(119), net: eur(880) });
    expect(worthOfExpense({ paid: eur(500), exchange: null, taxPercent: '0' }, 'EUR').net).toEqual(eur(500));
  });

  it('exchanges first and rounds that once', () => {
    const worth = worthOfExpense({ paid: money(1999, 'GBP'), exchange: '1.1745', taxPercent: '20' }, 'EUR');
    expect(worth).toMatchObject({ gross: eur(2348), tax: eur(391), net: eur(1957) });
    expect(worth.explanation.map((s) => s.rule)).toEqual(['paid', 'exchanged at 1.1745 EUR for one GBP', 'without 20 % tax']);
    expect(worthOfExpense({ paid: money(1500, 'JPY'), exchange: '0.0061', taxPercent: '0' }, 'EUR').gross).toEqual(eur(915));
  });

  it('is net and tax that add up, the tax within half a cent of its share', () => {
    const percent = fc.integer({ min: 0, max: 300 }).map((n) => String(n / 10));
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 10_000_000 }), percent, (minor, taxPercent) => {
        const { gross, tax, net } = worthOfExpense({ paid: eur(minor), exchange: null, taxPercent }, 'EUR');
        expect(net.minor + tax.minor).toBe(gross.minor);
        const exact = new Big(minor).times(taxPercent).div(new Big(100).plus(taxPercent));
        expect(exact.minus(tax.minor).abs().lte('0.5')).toBe(true);
      }),
    );
  });

  it('is charged with its markup, and never below what it cost', () => {
    expect(chargeOfExpense(eur(1000), '12.5').net).toEqual(eur(1125));
    expect(chargeOfExpense(eur(333), '0').net).toEqual(eur(333));
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1_000_000 }), fc.integer({ min: 0, max: 10_000 }), (minor, markup) => {
        expect(chargeOfExpense(eur(minor), String(markup / 100)).net.minor).toBeGreaterThanOrEqual(minor);
      }),
    );
  });
});

describe('what a way is worth', () => {
  it('is its length at the rate, rounded once', () => {
    expect(worthOfDistance('42.5', '0.4195', { unit: 'km', currency: 'EUR' }).net).toEqual(eur(1783));
    expect(worthOfDistance('0.1', '0.05', { unit: 'miles', currency: 'EUR' })).toMatchObject({ net: eur(1) });
  });
});
