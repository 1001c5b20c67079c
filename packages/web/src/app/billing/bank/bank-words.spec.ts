import { money } from '@core/ground';
import type { BankStatementWire, MatchWire } from '@core/billing';
import { headsOf, sayBecause, sayRead, sayRest } from './bank-words';
import { KEPT } from './kept-columns';

const EUR = (minor: number) => money(minor, 'EUR');
const match = (because: MatchWire['because']) => ({ because }) as unknown as MatchWire;
const statement = (lines: number, known = 0, announced = 0) => ({ lines, known, announced }) as BankStatementWire;

describe('a line of a bank', () => {
  it('says why it may be for what is proposed, an account rather than a name', () => {
    expect(sayBecause(match(['number', 'account', 'payer', 'amount']))).toBe('names the invoice, from their account, to the cent');
    expect(sayBecause(match(['payer', 'oldest']))).toBe('their name, the oldest first');
  });

  it('says what stays: credit before what is owed', () => {
    expect(sayRest({ over: EUR(1200), short: EUR(0) })).toBe('€12.00 stays their credit');
    expect(sayRest({ over: EUR(0), short: EUR(300) })).toBe('€3.00 stays owed');
    expect(sayRest({ over: EUR(0), short: EUR(0) })).toBe('');
  });

  it('says what reading brought over all statements of a file', () => {
    expect(sayRead([statement(1)])).toBe('1 new line');
    expect(sayRead([statement(2, 3), statement(0, 1, 2)])).toBe('2 new lines, 4 known already, 2 announced and not booked yet, not read');
  });
});

describe('columns of a file', () => {
  it('are named by its first row, whatever parts them', () => {
    expect(headsOf('\uFEFF"Booked on";Amount;Text\r\n1;2;3')).toEqual(['Booked on', 'Amount', 'Text']);
    expect(headsOf('a,b\n1;2;3;4')).toEqual(['a', 'b']);
    expect(headsOf('')).toEqual(['']);
  });

  it('are known again by their heads, the latest of them, and broken memory is none', () => {
    localStorage.clear();
    expect(KEPT.get('a|b')).toBeUndefined();
    KEPT.keep('a|b', { columns: { date: '0' }, dayFirst: '' });
    KEPT.keep('a|b', { columns: { date: '1' }, dayFirst: 'yes' });
    expect(KEPT.get('a|b')).toEqual({ columns: { date: '1' }, dayFirst: 'yes' });
    for (let n = 0; n < 25; n++) KEPT.keep(`other ${n}`, { columns: {}, dayFirst: '' });
    expect(KEPT.get('a|b')).toBeUndefined();
    localStorage.setItem('bank-columns', '{broken');
    expect(KEPT.get('other 24')).toBeUndefined();
    localStorage.clear();
  });
});
