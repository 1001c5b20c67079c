import fc from 'fast-check';
import { grossUnitPrice, invoicedGross, netUnitPrice, type Tax } from '../../goods';
import { CHARGE_STANDINGS, chargeAmount, decisionsOf, taxOfCharge } from '../charges';
import { money } from '../../ground';
import { invoiceNumber, invoiceTotals } from '.';

const taxes: Tax[] = [
  { category: 'S', percent: '23' },
  { category: 'S', percent: '13.5' },
  { category: 'Z', percent: '0' },
];

describe('invoices', () => {
  it('taxes each group on its sum, and totals are sums of rounded figures', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.integer({ min: -100_000, max: 1_000_000 }), fc.nat(2)), { maxLength: 20 }), (rows) => {
        const totals = invoiceTotals(
          rows.map(([minor, t]) => ({ net: money(minor, 'EUR'), tax: taxes[t]! })),
          'EUR',
        );
        expect(totals.gross.minor).toBe(totals.net.minor + totals.tax.minor);
        expect(totals.net.minor).toBe(rows.reduce((a, [m]) => a + m, 0));
        for (const [t, tax] of taxes.entries()) {
          const base = rows.filter(([, x]) => x === t).reduce((a, [m]) => a + m, 0);
          const group = totals.groups.find((g) => g.tax === tax);
          const tenths = base * Number(tax.percent) * 10;
          const slow = Math.sign(tenths) * Math.floor((Math.abs(tenths) + 500) / 1000);
          expect(group?.amount.minor ?? 0).toBe(slow + 0 === 0 ? 0 : slow);
        }
      }),
    );
    const one = invoiceTotals(
      [
        { net: money(10_000, 'EUR'), tax: taxes[0]! },
        { net: money(50, 'EUR'), tax: { category: 'S', percent: '23.0' } },
      ],
      'EUR',
    );
    expect(one.groups).toHaveLength(1);
    expect(one.tax.minor).toBe(2312);
  });

  it('prints numbers of a series', () => {
    expect(invoiceNumber('PH-', 42)).toBe('PH-00042');
    expect(invoiceNumber('PH-', 123456)).toBe('PH-123456');
  });

  it('keeps a price on its basis and shows it both ways', () => {
    expect(netUnitPrice({ price: '123', basis: 'gross' }, taxes[0]!)).toBe('100');
    expect(grossUnitPrice({ price: '100', basis: 'net' }, taxes[1]!)).toBe('113.5');
    expect(netUnitPrice({ price: '10', basis: 'gross' }, taxes[0]!)).toBe('8.1301');
    expect(invoicedGross({ price: '10', basis: 'gross' }, taxes[0]!, 'EUR')).toEqual({ gross: '10.00', asTyped: true });
    expect(invoicedGross({ price: '0.03', basis: 'gross' }, taxes[0]!, 'EUR').asTyped).toBe(false);
    // A price that no yen can meet, and one that a third place does.
    expect(invoicedGross({ price: '1000.5', basis: 'gross' }, taxes[0]!, 'JPY')).toEqual({ gross: '1000', asTyped: false });
    expect(invoicedGross({ price: '1000', basis: 'gross' }, taxes[0]!, 'JPY')).toEqual({ gross: '1000', asTyped: true });
    expect(invoicedGross({ price: '1.111', basis: 'gross' }, taxes[0]!, 'KWD')).toEqual({ gross: '1.111', asTyped: true });
    expect(invoicedGross({ price: '0.003', basis: 'gross' }, taxes[0]!, 'KWD').asTyped).toBe(false);
  });

  it('rounds a charge once and taxes the exempt at nothing', () => {
    expect(chargeAmount({ quantity: '0.3333', unit: 'C62', unitPrice: '100.005', currency: 'EUR' }).net.minor).toBe(3333);
    expect(chargeAmount({ quantity: '40', unit: 'MIN', unitPrice: '180', currency: 'EUR' }).net.minor).toBe(12000);
    expect(taxOfCharge(taxes[0]!, true)).toEqual({ category: 'E', percent: '0' });
    for (const standing of CHARGE_STANDINGS) expect(decisionsOf(standing, false).includes('approve')).toBe(standing === 'proposed');
    expect(CHARGE_STANDINGS.filter((standing) => decisionsOf(standing, false).includes('reopen'))).toEqual(['approved', 'waived']);
    for (const standing of CHARGE_STANDINGS) expect(decisionsOf(standing, true)).toEqual(['give back']);
  });
});
