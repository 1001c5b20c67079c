import fc from 'fast-check';
import { type LocalDate, money, sumMoney } from '../../ground';
import { CHARGE_KINDS } from '../charges';
import { bookDocument, bookPayment, isBalanced, type JournalEntry, sumAccounts, writeAccountsCsv, writeBeancount, writeLedger } from '.';

const EUR = (minor: number) => money(minor, 'EUR');
const on = '2026-11-24' as LocalDate;

const documentOf = (
  kind: 'invoice' | 'credit note',
  parts: readonly { readonly minor: number; readonly tax: number; readonly of: number }[],
) => {
  const nets = parts.map((p) => ({ kind: CHARGE_KINDS[p.of]!, net: EUR(p.minor) }));
  const taxes = parts.map((p) => ({ tax: { category: 'S' as const, percent: `${p.of}.500` }, amount: EUR(p.tax) }));
  const gross = EUR(parts.reduce((sum, p) => sum + p.minor + p.tax, 0));
  return bookDocument({ kind, number: 'PH-1', on, client: 'Hollin; "Vets" | (all)', clientNumber: 1001, nets, taxes, gross });
};
const paymentOf = (minor: number, clientNumber: number | null, what: 'payment' | 'payment taken back' = 'payment') =>
  bookPayment({ what, on, name: 'for (PH-1)\nthanks', client: 'Hollin', clientNumber, amount: EUR(minor) });
const part = fc.record({
  minor: fc.integer({ min: -9999, max: 9999 }),
  tax: fc.integer({ min: -999, max: 999 }),
  of: fc.integer({ min: 0, max: 4 }),
});

describe('the journal', () => {
  it('balances whatever was issued and paid, and a credit note is an invoice turned round', () => {
    fc.assert(
      fc.property(fc.array(part, { minLength: 1, maxLength: 6 }), fc.integer({ min: 1, max: 9999 }), (parts, paid) => {
        const [invoice, credit] = [documentOf('invoice', parts), documentOf('credit note', parts)];
        for (const entry of [invoice, credit, paymentOf(paid, 7), paymentOf(paid, null), paymentOf(paid, 7, 'payment taken back')])
          expect(isBalanced(entry)).toBe(true);
        const sums = sumAccounts([invoice, credit]);
        for (const { debit, credit: other } of sums) expect(debit).toEqual(other);
      }),
    );
  });

  it('sums each account by month to what was posted', () => {
    fc.assert(
      fc.property(fc.array(fc.array(part, { minLength: 1, maxLength: 3 }), { maxLength: 5 }), (documents) => {
        const entries = documents.map((parts) => documentOf('invoice', parts));
        const posted = entries.flatMap((e) => e.postings);
        for (const s of sumAccounts(entries)) {
          const of = posted.filter((p) => p.account.join(':') === s.account).map((p) => p.amount);
          expect(s.debit.minor - s.credit.minor).toBe(sumMoney(of, 'EUR').minor);
        }
      }),
    );
  });

  it('is written in plain text, in which nothing that people wrote begins something else', () => {
    const entries: JournalEntry[] = [documentOf('invoice', [{ minor: 1000, tax: 230, of: 0 }]), paymentOf(1230, 1001)];
    expect(writeLedger(entries)).toBe(
      [
        'commodity EUR',
        '    format 1000.00 EUR',
        'account Assets:Receipts',
        'account Assets:Receivable:Client-1001',
        'account Income:Labour',
        'account Liabilities:Tax:S-0-5',
        '',
        '2026-11-24 * (PH-1) invoice, Hollin "Vets" (all)',
        '    Assets:Receivable:Client-1001  12.30 EUR',
        '    Income:Labour  -10.00 EUR',
        '    Liabilities:Tax:S-0-5  -2.30 EUR',
        '2026-11-24 * (for PH-1 thanks) payment, Hollin',
        '    Assets:Receipts  12.30 EUR',
        '    Assets:Receivable:Client-1001  -12.30 EUR',
        '',
      ].join('\n'),
    );
    expect(writeBeancount(entries)).toContain('2026-11-24 open Assets:Receipts\n');
    expect(writeBeancount(entries)).toContain(
      '2026-11-24 * "Hollin; \\"Vets\\" | (all)" "invoice PH-1"\n  Assets:Receivable:Client-1001  12.30 EUR\n',
    );
    expect(writeAccountsCsv(entries).split('\r\n').slice(0, 3)).toEqual([
      'month,account,debit,credit,currency',
      '2026-11,Assets:Receipts,12.30,0.00,EUR',
      '2026-11,Assets:Receivable:Client-1001,12.30,12.30,EUR',
    ]);
    expect([writeLedger([]), writeBeancount([])].map((text) => text.includes('2026'))).toEqual([false, false]);
  });
});
