import { Big } from 'big.js';
import fc from 'fast-check';
import { raisedPrice, sayRise } from '.';

const by = (price: string, percent: string, currency: 'EUR' | 'JPY' = 'EUR') => raisedPrice(price, { percent }, currency);

describe('a price that rises', () => {
  it('is rounded to the minor unit, or to the places that it has, half away from zero', () => {
    expect([by('32', '3.5'), by('6.5', '2.5'), by('100', '-10')]).toEqual(['33.12', '6.66', '90']);
    expect([by('105', '2.5', 'JPY'), by('1.005', '0'), by('5', '-250')]).toEqual(['108', '1.005', '0']);
    expect([by('0.0125', '4'), by('0.0125', '4.4'), by('0.5', '1')]).toEqual(['0.013', '0.0131', '0.51']);
  });

  it('rises as an index did', () => {
    const rise = { indexThen: '118.2', indexNow: '121.4' };
    expect([raisedPrice('32', rise, 'EUR'), raisedPrice('118.2', rise, 'EUR'), raisedPrice('0', rise, 'EUR')]).toEqual([
      '32.87',
      '121.4',
      '0',
    ]);
    expect([sayRise(rise), sayRise({ percent: '3.5' })]).toEqual(['as the index from 118.2 to 121.4, 2.71 %', '3.5 %']);
  });

  it('is the whole cents nearest to what it is exactly, and stays where it rises by nothing', () => {
    const figure = fc.integer({ min: 1, max: 9_999_999 }).map((n) => new Big(n).div(10_000).toFixed());
    fc.assert(
      fc.property(fc.nat(1_000_000), figure, figure, (cents, indexThen, indexNow) => {
        const price = new Big(cents).div(100).toFixed();
        const raised = new Big(raisedPrice(price, { indexThen, indexNow }, 'EUR'));
        expect(raised.times(100).mod(1).toFixed()).toBe('0');
        // | raised - price × now / then | <= half a cent, without dividing.
        const off = raised.times(indexThen).minus(new Big(price).times(indexNow)).abs();
        expect(off.lte(new Big(indexThen).times('0.005'))).toBe(true);
        expect(Number(raisedPrice(price, { percent: '0' }, 'EUR'))).toBe(cents / 100);
      }),
    );
  });
});
