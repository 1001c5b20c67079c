import fc from 'fast-check';
import { raisedPrice } from '.';

describe('a price that rises', () => {
  it('is rounded to the minor unit, half away from zero', () => {
    expect([raisedPrice('32', '3.5', 'EUR'), raisedPrice('6.5', '2.5', 'EUR'), raisedPrice('100', '-10', 'EUR')]).toEqual([
      '33.12',
      '6.66',
      '90',
    ]);
    expect([raisedPrice('105', '2.5', 'JPY'), raisedPrice('1.005', '0', 'EUR'), raisedPrice('5', '-250', 'EUR')]).toEqual([
      '108',
      '1.01',
      '0',
    ]);
  });

  it('differs from what it is exactly by half a cent at the most, and stays where it rises by nothing', () => {
    fc.assert(
      fc.property(fc.nat(1_000_000), fc.integer({ min: -5000, max: 50_000 }), (cents, hundredths) => {
        const raised = Number(raisedPrice(String(cents / 100), String(hundredths / 100), 'EUR'));
        expect(Math.abs(raised - (cents / 100) * (1 + hundredths / 10_000))).toBeLessThanOrEqual(0.005 + 1e-6);
        expect(Number(raisedPrice(String(cents / 100), '0', 'EUR'))).toBe(cents / 100);
      }),
    );
  });
});
