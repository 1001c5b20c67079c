import { Big } from 'big.js';
import fc from 'fast-check';
import { parseLocalDate, plusDays } from '../../ground';
import { PRICE_HOMES, priceByRules, type PriceRule, sayPriceSet, type ToPrice } from '.';

const on = parseLocalDate('2026-11-24');
const rule = (over: Partial<PriceRule> = {}): PriceRule => ({
  id: 'a',
  home: 'client',
  itemId: 'till',
  category: null,
  fromQuantity: '1',
  from: plusDays(on, -30),
  to: null,
  sets: { is: 'price', price: '80', basis: 'net' },
  ...over,
});
const asked: ToPrice = { itemId: 'till', category: 'jobs', quantity: '2', on, listed: { price: '95', basis: 'net' } };
const by = (...rules: PriceRule[]) => priceByRules(asked, rules);

const anyRule = fc.record({
  home: fc.constantFrom(...PRICE_HOMES),
  of: fc.constantFrom(
    { itemId: 'till', category: null },
    { itemId: null, category: 'jobs' },
    { itemId: null, category: null },
    { itemId: 'other', category: null },
    { itemId: null, category: 'cables' },
  ),
  fromQuantity: fc.constantFrom('1', '2', '3'),
  from: fc.integer({ min: -9, max: 2 }).map((n) => plusDays(on, n)),
  length: fc.option(fc.integer({ min: 1, max: 12 })),
  sets: fc.oneof(
    fc.nat(200).map((n) => ({ is: 'price' as const, price: String(n), basis: 'net' as const })),
    fc.integer({ min: 0, max: 100 }).map((n) => ({ is: 'percent off' as const, percent: String(n) })),
    fc.constant({ is: 'never billed' as const }),
  ),
});
const anyRules = fc.array(anyRule, { maxLength: 8 }).map((some) =>
  some.map(({ of, length, ...r }, n): PriceRule => ({
    ...r,
    ...of,
    id: String(n),
    to: length === null ? null : plusDays(r.from, length),
  })),
);

/** The slow way, from the text: strike out what does not fit, then narrow down until one is left. */
function slowly(rules: readonly PriceRule[]): PriceRule | undefined {
  const keep = <T>(all: readonly T[], best: (x: T) => number) => {
    const top = Math.min(...all.map(best));
    return all.filter((x) => best(x) === top);
  };
  let left = rules.filter(
    (r) =>
      [null, asked.itemId].includes(r.itemId) &&
      [null, asked.category].includes(r.category) &&
      r.from <= on &&
      (r.to === null || r.to > on) &&
      Number(r.fromQuantity) <= Number(asked.quantity),
  );
  left = keep(left, (r) => PRICE_HOMES.indexOf(r.home));
  left = keep(left, (r) => (r.itemId ? 0 : r.category ? 1 : 2));
  left = keep(left, (r) => -Number(r.fromQuantity));
  left = keep(left, (r) => -Number(r.from.replaceAll('-', '')));
  return [...left].sort((a, b) => (a.id < b.id ? -1 : 1))[0];
}

describe('price rules', () => {
  it('give the catalogue its word where none fits', () => {
    expect(by()).toEqual({ unit: asked.listed, by: null, neverBilled: null });
    const none = [rule({ itemId: 'other' }), rule({ from: plusDays(on, 1) }), rule({ to: on }), rule({ fromQuantity: '2.01' })];
    expect(by(...none).by).toBeNull();
    expect(by(rule({ to: plusDays(on, 1) })).by).not.toBeNull();
  });

  it('count the contract before the client before the house, the item before its category before everything', () => {
    const house = rule({ id: 'h', home: 'house' });
    const all = rule({ id: 'all', itemId: null });
    const category = rule({ id: 'category', itemId: null, category: 'jobs' });
    const contract = rule({ id: 'contract', home: 'contract', itemId: null });
    expect(by(house, all, category).by!.id).toBe('category');
    expect(by(house, all, category, rule({ id: 'item' })).by!.id).toBe('item');
    expect(by(house, rule(), contract).by!.id).toBe('contract');
    expect(by(rule({ id: '1' }), rule({ id: '2', fromQuantity: '2' })).by!.id).toBe('2');
    expect(by(rule({ id: '1' }), rule({ id: '2', from: plusDays(on, -1) })).by!.id).toBe('2');
  });

  it('take percent off on the basis of the catalogue, to four places', () => {
    const off = rule({ sets: { is: 'percent off', percent: '12.5' } });
    expect(by(off).unit).toEqual({ price: '83.125', basis: 'net' });
    expect(priceByRules({ ...asked, listed: { price: '9.99', basis: 'gross' } }, [off]).unit).toEqual({ price: '8.7413', basis: 'gross' });
  });

  it('price what is never billed all the same, so that a person sees what is at stake', () => {
    const never = rule({ id: 'n', home: 'contract', sets: { is: 'never billed' } });
    expect(by(never)).toEqual({ unit: asked.listed, by: null, neverBilled: never });
    expect(by(never, rule())).toMatchObject({ unit: { price: '80' }, neverBilled: { id: 'n' } });
    // A price that counts before it is no never.
    expect(by(rule({ id: 'n', home: 'house', sets: { is: 'never billed' } }), rule()).neverBilled).toBeNull();
  });

  it('find, in whatever order they stand, what the text finds', () => {
    fc.assert(
      fc.property(anyRules, (rules) => {
        const { by: found, neverBilled, unit } = by(...rules);
        expect(by(...[...rules].reverse())).toEqual({ by: found, neverBilled, unit });
        expect(found ?? undefined).toEqual(slowly(rules.filter((r) => r.sets.is !== 'never billed')));
        const first = slowly(rules);
        expect(neverBilled ?? undefined).toEqual(first?.sets.is === 'never billed' ? first : undefined);
        if (found?.sets.is === 'percent off') expect(new Big(unit.price).lte(asked.listed.price)).toBe(true);
      }),
    );
  });

  it('are said in words', () => {
    expect(sayPriceSet(rule().sets, 'EUR')).toBe('€80.00 without tax');
    expect(sayPriceSet({ is: 'price', price: '9.9', basis: 'gross' }, 'EUR')).toBe('€9.90 with tax');
    expect(sayPriceSet({ is: 'percent off', percent: '10' }, 'EUR')).toBe('10 % off');
    expect(sayPriceSet({ is: 'never billed' }, 'EUR')).toBe('never billed');
  });
});
