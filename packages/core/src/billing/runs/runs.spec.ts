import fc from 'fast-check';
import { type Money, money, sumMoney } from '../../ground';
import { chargeAmount } from '../charges';
import { sayReason, whyDiffers, type RunLine } from '.';

const eur = (minor: number) => money(minor, 'EUR');

const seats = (quantity: string, unitPrice = '30', { name = 'Seats', isTrueUp = false } = {}): RunLine => ({
  kind: 'recurring',
  recurs: { lineId: name, line: name, isTrueUp },
  quantity,
  unit: 'C62',
  unitPrice,
  net: chargeAmount({ quantity, unit: 'C62', unitPrice, currency: 'EUR' }).net,
});
const piece = (kind: RunLine['kind'], net: Money, minutes = 0): RunLine => ({
  kind,
  recurs: null,
  quantity: minutes ? String(minutes) : '1',
  unit: minutes ? 'MIN' : 'C62',
  unitPrice: '1',
  net,
});
const said = (now: readonly RunLine[], last: readonly RunLine[] | null) =>
  whyDiffers(now, last, 'EUR').map((r) => `${sayReason(r)} (${r.by.minor})`);

describe('why an invoice differs from the last', () => {
  it('says how many more there are and at which price', () => {
    expect(said([seats('13')], [seats('12')])).toEqual(['Seats: 12 → 13 (3000)']);
    expect(said([seats('12', '32')], [seats('12')])).toEqual(['Seats: €30.00 → €32.00 each (2400)']);
    expect(said([seats('13', '32')], [seats('12')])).toEqual(['Seats: €30.00 → €32.00 each (2600)', 'Seats: 12 → 13 (3000)'].reverse());
    expect(said([seats('12')], [seats('12')])).toEqual([]);
  });

  it('takes the price of a part of a period for no price', () => {
    expect(said([seats('5', '32')], [seats('1', '106.67')])).toEqual(['Seats: €160.00 instead of €106.67 (5333)']);
    expect(said([seats('2'), seats('1')], [seats('3')])).toEqual([]);
    expect(said([seats('2'), seats('2')], [seats('3')])).toEqual(['Seats: €120.00 instead of €90.00 (3000)']);
  });

  it('says what is new, what is gone, and what is put right', () => {
    expect(said([seats('1', '50', { name: 'Backup' })], [seats('2')])).toEqual([
      'Seats is not on this one (-6000)',
      'Backup, €50.00, was not on the last one (5000)',
    ]);
    const trueUp = (price: string) => seats('1', price, { isTrueUp: true });
    expect(said([seats('2'), trueUp('21.33')], [seats('2')])).toEqual(['Seats put right by €21.33 (2133)']);
    expect(said([seats('2')], [seats('2'), trueUp('21.33')])).toEqual(['nothing to put right for Seats this time (-2133)']);
    expect(said([trueUp('5')], [trueUp('21.33')])).toEqual(['Seats put right by €5.00, last time by €21.33 (-1633)']);
  });

  it('says how much work there is, and what else comes', () => {
    const now = [piece('labour', eur(9000), 60), piece('product', eur(500))];
    expect(said(now, [piece('labour', eur(4500), 30)])).toEqual([
      '1 h of work instead of 30 min (4500)',
      'goods of €5.00, none last time (500)',
    ]);
    expect(said([piece('labour', eur(9000), 60)], [])).toEqual(['1 h of work, none last time (9000)']);
    expect(said([piece('labour', eur(9000), 60)], [piece('labour', eur(8000), 60)])).toEqual([
      '1 h of work as last time, at other rates (1000)',
    ]);
    expect(said([piece('fee', eur(500))], now)).toEqual([
      'no work to pay instead of 1 h (-9000)',
      'goods none, €5.00 last time (-500)',
      'fees of €5.00, none last time (500)',
    ]);
    expect(said(now, null)).toEqual(['nothing like it was billed before (9500)']);
  });

  it('adds up to the difference, whatever is on both', () => {
    const line = fc.oneof(
      fc
        .record({
          quantity: fc.integer({ min: -3, max: 40 }),
          cents: fc.integer({ min: 0, max: 9999 }),
          name: fc.constantFrom('Seats', 'Backup', 'Care'),
          isTrueUp: fc.boolean(),
        })
        .map(({ quantity, cents, name, isTrueUp }) => seats(String(quantity), String(cents / 100), { name, isTrueUp })),
      fc
        .record({
          kind: fc.constantFrom('labour', 'product', 'fee', 'expense'),
          minor: fc.integer({ min: -9999, max: 9999 }),
          minutes: fc.integer({ min: 0, max: 600 }),
        })
        .map(({ kind, minor, minutes }) => piece(kind as RunLine['kind'], eur(minor), minutes)),
      // Billed in part already: what the line bills is not what its quantity comes to.
      fc.integer({ min: -500, max: 500 }).map((minor): RunLine => ({ ...seats('7'), net: eur(minor) })),
    );
    const lines = fc.array(line, { maxLength: 12 });
    fc.assert(
      fc.property(lines, fc.option(lines), (now, last) => {
        const net = (all: readonly { readonly net: Money }[]) =>
          sumMoney(
            all.map((l) => l.net),
            'EUR',
          ).minor;
        const reasons = whyDiffers(now, last, 'EUR');
        expect(reasons.reduce((sum, r) => sum + r.by.minor, 0)).toBe(net(now) - net(last ?? []));
        for (const reason of reasons) expect(sayReason(reason)).not.toMatch(/undefined|NaN|null/);
      }),
      { numRuns: 500 },
    );
  });
});
