import { Big } from 'big.js';
import fc from 'fast-check';
import {
  allocate,
  divideHalfAway,
  formatMoney,
  formatUnitPrice,
  isDecimalText,
  type Currency,
  majorOf,
  money,
  parseMoney,
  plainMoney,
  roundQuotient,
  roundToMinor,
  scaledOf,
  sumMoney,
} from '.';

const amounts = fc.integer({ min: -1e12, max: 1e12 });

describe('a quotient', () => {
  it('is rounded the same by machine numbers and by whole numbers of any size', () => {
    const sizes = fc.oneof(fc.integer({ min: -1e6, max: 1e6 }), fc.maxSafeInteger());
    fc.assert(
      fc.property(sizes, fc.integer({ min: 1, max: 1e15 }), (n, d) => {
        expect(roundQuotient(BigInt(n), BigInt(d)) + 0).toBe(Number(divideHalfAway(BigInt(n), BigInt(d))));
      }),
    );
    expect([5, -5, 15, 14].map((n) => roundQuotient(BigInt(n), 10n))).toEqual([1, -1, 2, 1]);
  });

  it('is of decimals as whole numbers of their last place', () => {
    expect([scaledOf('32.50'), scaledOf('90'), scaledOf('-0.125')]).toEqual([
      { units: 3250n, places: 2 },
      { units: 90n, places: 0 },
      { units: -125n, places: 3 },
    ]);
  });
});

describe('money', () => {
  it('is worth its minor units by the currency', () => {
    const major = (minor: number, currency: Currency) => majorOf(money(minor, currency)).toString();
    expect([major(1234, 'EUR'), major(1234, 'JPY'), major(1234, 'KWD'), major(-5, 'EUR')]).toEqual(['12.34', '1234', '1.234', '-0.05']);
  });

  it('shares an amount out without losing or making a cent, alike in both signs', () => {
    fc.assert(
      fc.property(amounts, fc.array(fc.integer({ min: 0, max: 1000 }), { minLength: 1, maxLength: 9 }), (minor, weights) => {
        fc.pre(weights.some((w) => w > 0));
        const parts = allocate(money(minor, 'EUR'), weights);
        expect(sumMoney(parts, 'EUR').minor).toBe(minor === 0 ? 0 : minor);
        const mirrored = allocate(money(-minor, 'EUR'), weights);
        expect(mirrored.map((p) => -p.minor + 0)).toEqual(parts.map((p) => p.minor + 0));
        const sum = weights.reduce((a, b) => a + b, 0);
        parts.forEach((part, i) => {
          const exact = new Big(minor).times(weights[i]!).div(sum);
          expect(exact.minus(part.minor).abs().lt(1)).toBe(true);
        });
      }),
    );
  });

  it('gives what is left to the largest remainder, ties to the earlier', () => {
    expect(allocate(money(100, 'EUR'), [1, 1, 1]).map((p) => p.minor)).toEqual([34, 33, 33]);
    expect(allocate(money(-100, 'EUR'), [1, 1, 1]).map((p) => p.minor)).toEqual([-34, -33, -33]);
    expect(allocate(money(10, 'EUR'), [1, 5, 4]).map((p) => p.minor)).toEqual([1, 5, 4]);
    expect(() => allocate(money(1, 'EUR'), [0])).toThrow('above zero');
  });

  it('rounds half away from zero, exactly, also after a division', () => {
    expect(roundToMinor(new Big('0.005'), 1, 'EUR').minor).toBe(1);
    expect(roundToMinor(new Big('-0.005'), 1, 'EUR').minor).toBe(-1);
    expect(roundToMinor(new Big('90').times(7), 60, 'EUR').minor).toBe(1050);
    for (const divisor of [0, -1, 1.5, Number.NaN])
      expect(() => roundToMinor(new Big(1), divisor, 'EUR')).toThrow('divisor must be above zero');
    fc.assert(
      fc.property(fc.bigInt(-(10n ** 15n), 10n ** 15n), fc.bigInt(1n, 10n ** 6n), (n, d) => {
        const slow = new Big(n.toString()).div(1);
        const rounded = divideHalfAway(n, d);
        const gap = slow.minus(new Big(rounded.toString()).times(d.toString())).abs().times(2);
        expect(gap.lte(d.toString())).toBe(true);
        if (gap.eq(d.toString())) expect(new Big(rounded.toString()).times(d.toString()).abs().gt(slow.abs())).toBe(true);
      }),
    );
  });

  it('reads back what it writes', () => {
    fc.assert(
      fc.property(amounts, (minor) => {
        expect(parseMoney(plainMoney(money(minor, 'EUR')), 'EUR')).toEqual(money(minor, 'EUR'));
      }),
    );
    expect(formatMoney(money(125050, 'EUR'))).toBe('€1,250.50');
    expect(formatMoney(money(-5, 'EUR'))).toBe('−€0.05');
    expect(formatMoney(money(1500, 'JPY'))).toBe('¥1,500');
    expect([formatMoney(money(0, 'EUR')), formatMoney(money(-1, 'KWD')), formatMoney(money(1_234_567, 'USD'))]).toEqual([
      '€0.00',
      '−KD 0.001',
      '$12,345.67',
    ]);
    expect([plainMoney(money(0, 'EUR')), plainMoney(money(-1, 'EUR')), plainMoney(money(-7, 'JPY'))]).toEqual(['0.00', '-0.01', '-7']);
    expect(parseMoney('€1,250.5', 'EUR')?.minor).toBe(125050);
    for (const wrong of ['', '1.005', '12,50', 'ten', '1e3', '--1']) expect(parseMoney(wrong, 'EUR')).toBeUndefined();
  });

  it('writes unit prices with the places of the currency at least, and loses none', () => {
    expect(['8.1', '1190', '16.1789', '0', '-2.5'].map((p) => formatUnitPrice(p, 'EUR'))).toEqual([
      '€8.10',
      '€1,190.00',
      '€16.1789',
      '€0.00',
      '−€2.50',
    ]);
    expect(formatUnitPrice('1500', 'JPY')).toBe('¥1,500');
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 10 ** 9 }), fc.integer({ min: 0, max: 9999 }), (whole, part) => {
        const price = `${whole}.${String(part).padStart(4, '0')}`;
        const shown = formatUnitPrice(price, 'EUR');
        expect(shown).toMatch(/^€[\d,]+\.\d{2,4}$/);
        expect(Number(shown.replace(/[€,]/g, ''))).toBe(Number(price));
      }),
    );
  });

  it('refuses what is not exact', () => {
    expect(() => money(0.5, 'EUR')).toThrow(RangeError);
    expect(() => sumMoney([money(1, 'USD')], 'EUR')).toThrow('USD');
    expect(isDecimalText('90.1234')).toBe(true);
    expect(isDecimalText('90.12345')).toBe(false);
  });
});
