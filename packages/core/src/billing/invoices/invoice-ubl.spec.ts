import { Big } from 'big.js';
import fc from 'fast-check';
import { BUYER, EXEMPT, invoiceOf, STANDARD } from '../../../testing/issued-invoice';
import type { ChargeUnit } from '../charges';
import { parseLocalDate } from '../../ground';
import { invoiceUbl, type IssuedInvoice, type Party } from '.';

const written = (invoice: IssuedInvoice) => JSON.parse(JSON.stringify(invoiceUbl(invoice)['ubl:Invoice']));
const prices = (invoice: IssuedInvoice) =>
  written(invoice)['cac:InvoiceLine'].map((line: Record<string, Record<string, string>>) => {
    const price = line['cac:Price']!;
    return [price['cbc:PriceAmount'], price['cbc:BaseQuantity'], price['cbc:BaseQuantity@unitCode']];
  });

describe('an invoice as UBL', () => {
  it('numbers its lines from one, each with the charge that it bills', () => {
    const { lines } = invoiceOf([
      ['50', 'MIN', '104', STANDARD],
      ['2', 'C62', '10', STANDARD],
    ]);
    expect(lines.map((l) => [l.position, l.links])).toEqual([
      [1, [{ chargeId: 'c0', does: 'bill', net: { minor: 8667, currency: 'EUR' } }]],
      [2, [{ chargeId: 'c1', does: 'bill', net: { minor: 2000, currency: 'EUR' } }]],
    ]);
  });

  it('gives the price of an hour for sixty minutes, and a price of more than two places for a larger quantity', () => {
    expect(
      prices(
        invoiceOf([
          ['50', 'MIN', '104', STANDARD],
          ['50', 'MIN', '104.125', STANDARD],
          ['2', 'C62', '10.5', STANDARD],
          ['2', 'C62', '10.25', STANDARD],
          ['3', 'C62', '0.1234', STANDARD],
          ['42', 'KMT', '0.625', STANDARD],
        ]),
      ),
    ).toEqual([
      ['104', '60', 'MIN'],
      ['1041.25', '600', 'MIN'],
      ['10.5', undefined, undefined],
      ['10.25', undefined, undefined],
      ['12.34', '100', 'C62'],
      ['6.25', '10', 'KMT'],
    ]);
  });

  it('says of each line what its quantity at its price comes to, whatever the unit and the places', () => {
    const price = fc.tuple(fc.nat(9999), fc.nat(4)).map(([value, places]) => new Big(value).div(10 ** places).toFixed());
    const asked = fc.tuple(fc.integer({ min: 1, max: 5000 }).map(String), fc.constantFrom<ChargeUnit>('MIN', 'C62', 'KMT'), price);
    fc.assert(
      fc.property(fc.array(asked, { minLength: 1, maxLength: 5 }), (all) => {
        const invoice = invoiceOf(all.map(([quantity, unit, unitPrice]) => [quantity, unit, unitPrice, STANDARD]));
        for (const line of written(invoice)['cac:InvoiceLine']) {
          const exact = new Big(line['cac:Price']['cbc:PriceAmount'])
            .times(line['cbc:InvoicedQuantity'])
            .div(line['cac:Price']['cbc:BaseQuantity'] ?? '1');
          expect(exact.minus(line['cbc:LineExtensionAmount']).abs().lte('0.005')).toBe(true);
          expect(new Big(line['cac:Price']['cbc:PriceAmount']).times(100).mod(1).eq(0)).toBe(true);
        }
      }),
    );
  });

  it('gives a reason where nothing is taxed, and only there; its totals are those of the invoice', () => {
    const mixed = invoiceOf([
      ['1', 'C62', '100', STANDARD],
      ['1', 'C62', '50', EXEMPT],
    ]);
    const root = written(mixed);
    const groups = root['cac:TaxTotal'][0]['cac:TaxSubtotal'].map((g: Record<string, Record<string, string>>) => [
      g['cac:TaxCategory']!['cbc:ID'],
      g['cbc:TaxableAmount'],
      g['cbc:TaxAmount'],
      g['cac:TaxCategory']!['cbc:TaxExemptionReason'],
    ]);
    expect(groups).toEqual(
      expect.arrayContaining([
        ['S', '100.00', '23.00', undefined],
        ['E', '50.00', '0.00', 'Exempt from tax'],
      ]),
    );
    expect(root['cac:LegalMonetaryTotal']).toMatchObject({
      'cbc:TaxExclusiveAmount': '150.00',
      'cbc:TaxInclusiveAmount': '173.00',
      'cbc:PayableAmount': '173.00',
      'cbc:PayableAmount@currencyID': 'EUR',
    });
  });

  it('names a tax number only of a buyer who has one', () => {
    const parties = (buyer: Party) => written(invoiceOf([['1', 'C62', '1', STANDARD]], buyer))['cac:AccountingCustomerParty']['cac:Party'];
    expect(parties(BUYER)['cac:PartyTaxScheme']['cbc:CompanyID']).toBe('IE7654321B');
    expect(parties({ ...BUYER, taxNumber: null })['cac:PartyTaxScheme']).toBeUndefined();
  });

  it('says of a line whom it is for as one note, which the schema takes once', () => {
    const two = invoiceOf([
      ['1', 'C62', '10', STANDARD],
      ['1', 'C62', '20', STANDARD],
    ]);
    const notes = written(two)['cac:InvoiceLine'].map((line: Record<string, unknown>) => line['cbc:Note']);
    expect(notes).toEqual([undefined, 'Ada, Bram <& 1>']);
  });

  it('names what a credit note corrects, and asks for no money', () => {
    const invoice = invoiceOf([['50', 'MIN', '104', STANDARD]]);
    const corrects = { number: 'PH-00007', issuedOn: parseLocalDate('2026-10-01'), reason: 'billed twice' };
    const note = written({ ...invoice, kind: 'credit note', number: 'PHC-00001', corrects });
    expect(note['cbc:InvoiceTypeCode']).toBe('381');
    expect(note['cac:BillingReference']).toEqual([
      { 'cac:InvoiceDocumentReference': { 'cbc:ID': 'PH-00007', 'cbc:IssueDate': '2026-10-01' } },
    ]);
    expect(note['cbc:Note']).toEqual(['billed twice']);
    expect(note['cac:PaymentMeans']).toBeUndefined();
    expect(written(invoice)['cac:PaymentMeans']).toBeDefined();
  });
});
