import fc from 'fast-check';
import { parseLocalDate, plusDays } from '../../ground';
import { CHARGE_MARKS, type ChargeBesides, odditiesOf, type Oddity, ODDITY_NAMES, sayOddity } from '.';

const today = parseLocalDate('2026-11-24');
const limits = { old: 45, ratePercent: 25, long: 300, cases: 5 };
const plain: ChargeBesides = {
  marks: [],
  kind: 'labour',
  on: today,
  unit: 'MIN',
  unitPrice: '90',
  tax: { category: 'S', percent: '23' },
  isExempt: false,
  minutes: 60,
  planned: null,
  contract: null,
  fee: null,
  unitCost: null,
  usual: null,
  askedBy: null,
};
const look = (over: Partial<ChargeBesides>) => odditiesOf({ ...plain, ...over }, { today, limits });
const names = (over: Partial<ChargeBesides>) => look(over).map((o) => o.is);
const said = (over: Partial<ChargeBesides>) => look(over).map((o) => sayOddity(o, { unit: over.unit ?? 'MIN', currency: 'EUR' }));

describe('what is odd about a charge', () => {
  it('is nothing where it is as expected', () => {
    expect(look({})).toEqual([]);
    expect(look({ planned: { estimate: 60, spent: 60 }, usual: { price: '90', cases: 9 }, unitCost: '90' })).toEqual([]);
  });

  it.each<[Partial<ChargeBesides>, string]>([
    [{ planned: { estimate: 60, spent: 95 } }, 'above estimate: 1 h 35, planned 1 h'],
    [{ usual: { price: '72', cases: 5 }, unitPrice: '90.01' }, 'unusual rate: €90.01 an hour, else €72.00'],
    [{ kind: 'product', unit: 'C62', unitPrice: '40', unitCost: '55.5' }, 'under cost: €40.00, costs €55.50'],
    [{ on: plusDays(today, -46) }, 'old: 46 days, limit 45 days'],
    [{ marks: ['long'], minutes: 410 }, 'long: 6 h 50, limit 5 h'],
    [{ contract: 'Managed care' }, 'not covered: Managed care'],
    [{ fee: 'New starter' }, 'beside a flat fee: New starter'],
    [{ marks: ['never billed'], kind: 'product' }, 'never billed'],
    [{ tax: { category: 'S', percent: '0' } }, 'no tax'],
    [{ askedBy: 'Wren' }, 'asked about: Wren'],
    [{ marks: ['no note'] }, 'no note'],
    [{ marks: ['true-up'], kind: 'recurring' }, 'true-up'],
  ])('%j is said with its figures', (over, words) => expect(said(over)).toEqual([words]));

  it('begins just after its limit', () => {
    expect(names({ on: plusDays(today, -45) })).toEqual([]);
    expect(names({ usual: { price: '72', cases: 5 }, unitPrice: '90' })).toEqual([]);
    expect(names({ usual: { price: '72', cases: 4 }, unitPrice: '500' })).toEqual([]);
    expect(names({ usual: { price: '100', cases: 5 }, unitPrice: '74.99' })).toEqual(['unusual rate']);
    expect(names({ kind: 'product', unit: 'C62', unitPrice: '55.5', unitCost: '55.5' })).toEqual([]);
  });

  it('does not ask twice for one reason, nor what cannot be', () => {
    expect(names({ marks: ['no rate'], unitPrice: '0', usual: { price: '90', cases: 9 } })).toEqual(['no rate']);
    expect(names({ tax: { category: 'S', percent: '0' }, isExempt: true })).toEqual([]);
    expect(names({ tax: { category: 'E', percent: '0' } })).toEqual([]);
    const goods: Partial<ChargeBesides> = { kind: 'product', unit: 'C62' };
    expect(names({ ...goods, planned: { estimate: 1, spent: 9 }, contract: 'x', fee: 'y', usual: { price: '1', cases: 9 } })).toEqual([]);
  });

  it('names each once, in one order, with both figures or none', () => {
    fc.assert(
      fc.property(
        fc.record({
          marks: fc.subarray([...CHARGE_MARKS]),
          on: fc.integer({ min: -99, max: 9 }).map((n) => plusDays(today, n)),
          unitPrice: fc.integer({ min: 0, max: 300 }).map(String),
          planned: fc.option(fc.record({ estimate: fc.nat(600), spent: fc.nat(600) })),
          contract: fc.option(fc.constant('c')),
          usual: fc.option(fc.record({ price: fc.integer({ min: 1, max: 300 }).map(String), cases: fc.nat(9) })),
          unitCost: fc.option(fc.integer({ min: 0, max: 300 }).map(String)),
        }),
        (over) => {
          const found: Oddity[] = look(over);
          const order = found.map((o) => ODDITY_NAMES.indexOf(o.is));
          expect(order).toEqual([...new Set(order)].sort((a, b) => a - b));
          for (const o of found) expect((o.has === null) === (o.beside === null)).toBe(true);
          // A limit that is wider never finds more.
          const wider = { old: 99, ratePercent: 99_999, long: 300, cases: 5 };
          const less = odditiesOf({ ...plain, ...over }, { today, limits: wider }).map((o) => o.is);
          expect(found.map((o) => o.is)).toEqual(expect.arrayContaining(less));
        },
      ),
    );
  });
});
