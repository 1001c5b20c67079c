import { Big } from 'big.js';
import fc from 'fast-check';
import { chargeAmount, type ChargeUnit, invoiceLines, invoiceTotals, type IssuedInvoice, type Party, type Seller } from '../src/billing';
import type { Tax } from '../src/goods';
import { parseLocalDate } from '../src/ground';

export const SELLER: Seller = {
  name: 'Pellworth',
  street: '4 Quay Row',
  city: 'Dublin',
  postcode: 'D04 XY12',
  country: 'IE',
  taxNumber: 'IE1234567A',
  email: 'billing@pellworth.example',
  phone: '+353 1 555 0100',
  account: 'IE00EXMP12345678901234',
};
export const BUYER: Party = {
  name: 'Hollin Veterinary Group',
  street: '1 Mill Lane',
  city: 'Galway',
  postcode: 'H91 AB12',
  country: 'IE',
  taxNumber: 'IE7654321B',
  email: 'books@hollin.example',
  phone: '+353 91 555 0101',
};
export const STANDARD: Tax = { category: 'S', percent: '23' };
export const EXEMPT: Tax = { category: 'E', percent: '0' };

export type Asked = readonly [quantity: string, unit: ChargeUnit, unitPrice: string, tax: Tax];
/** An issued invoice of lines as asked. */
export function invoiceOf(asked: readonly Asked[], buyer: Party = BUYER): IssuedInvoice {
  const lines = invoiceLines(
    asked.map(([quantity, unit, unitPrice, tax], n) => {
      const { net } = chargeAmount({ quantity, unit, unitPrice, currency: 'EUR' });
      return {
        id: `c${n}`,
        description: `Work ${n}`,
        details: n % 2 ? `Ada, Bram <& ${n}>` : null,
        quantity,
        unit,
        unitPrice,
        net,
        open: net,
        tax,
      };
    }),
    'invoice',
  );
  return {
    kind: 'invoice',
    corrects: null,
    number: 'PH-00042',
    issuedOn: parseLocalDate('2026-11-24'),
    dueOn: parseLocalDate('2026-12-08'),
    currency: 'EUR',
    billedFor: asked.length % 2 ? null : 'Mill Lane & Sons <north>',
    purchaseOrder: asked.length % 3 ? null : 'PO-7/26',
    seller: SELLER,
    buyer,
    lines,
    totals: invoiceTotals(lines, 'EUR'),
  };
}

const TAXES: readonly Tax[] = [STANDARD, { category: 'S', percent: '13.5' }, { category: 'Z', percent: '0' }, EXEMPT];
const price = fc.tuple(fc.integer({ min: 1, max: 99_999 }), fc.nat(4)).map(([value, places]) => new Big(value).div(10 ** places).toFixed());
const asked: fc.Arbitrary<Asked> = fc.tuple(
  fc.integer({ min: 1, max: 5000 }).map(String),
  fc.constantFrom<ChargeUnit>('MIN', 'C62', 'KMT'),
  price,
  fc.constantFrom(...TAXES),
);

/** Any document that can be issued: several rates, units and places, with or without a tax number of the buyer, invoice or credit note. */
export const anyIssued: fc.Arbitrary<IssuedInvoice> = fc
  .record({
    lines: fc.array(asked, { minLength: 1, maxLength: 12 }),
    number: fc.integer({ min: 1, max: 99_999 }),
    isCredit: fc.boolean(),
    hasTaxNumber: fc.boolean(),
  })
  .map(({ lines, number, isCredit, hasTaxNumber }): IssuedInvoice => {
    const invoice = invoiceOf(lines, hasTaxNumber ? BUYER : { ...BUYER, taxNumber: null });
    if (!isCredit) return { ...invoice, number: `PH-${number}` };
    const corrects = { number: 'PH-00007', issuedOn: parseLocalDate('2026-10-01'), reason: 'billed <twice> & agreed' };
    return { ...invoice, kind: 'credit note', number: `PHC-${number}`, corrects };
  });
