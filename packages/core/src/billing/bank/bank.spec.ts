import fc from 'fast-check';
import { type Currency, type Id, isRefusal, type LocalDate, money, type Outcome, sumMoney } from '../../ground';
import {
  type BankLine,
  type BankStatement,
  guessColumns,
  indexFacts,
  lineKeys,
  type MatchFacts,
  names,
  plainName,
  proposeMatches as propose,
  readBankRows,
  readCamt,
  readDecimal,
} from '.';

const proposeMatches = (line: BankLine, some: MatchFacts) => propose(line, indexFacts(some));
const EUR = (minor: number) => money(minor, 'EUR');
const day = (text: string) => text as LocalDate;
const client = (n: number) => `c${n}` as Id<'client'>;

function line(minor: number, told: Partial<BankLine> = {}): BankLine {
  return { place: 'line 2', bankId: null, bookedOn: day('2026-11-24'), amount: EUR(minor), payer: '', payerAccount: '', text: '', ...told };
}
function invoice(number: string, minor: number, of = 1, dueOn = '2026-11-01') {
  return { id: `i-${number}` as Id<'invoice'>, number, clientId: client(of), left: EUR(minor), dueOn: day(dueOn) };
}
const facts = (some: Partial<MatchFacts>): MatchFacts => ({ invoices: [], payers: [], payments: [], ...some });

describe('what a line of a bank may be for', () => {
  const hollin = { clientId: client(1), names: ['Hollin Precision Ltd'], accounts: ['XX11'] };

  it('knows numbers however they are written, and no other number', () => {
    for (const written of ['PH-01221', 'inv PH01221', 'ph 1221.', 'PH/01221/thanks', 'for PH-1221, PH-1222'])
      expect([written, names(written, 'PH-01221')]).toEqual([written, true]);
    for (const written of ['PH-012210', 'PH-11221', 'XPH-01221', '1221', 'PH 12 21', ''])
      expect([written, names(written, 'PH-01221')]).toEqual([written, false]);
  });

  it('settles the invoices that are named, to the cent sure', () => {
    const two = [invoice('PH-1', 1000), invoice('PH-2', 500), invoice('PH-3', 1500)];
    const [match] = proposeMatches(line(1500, { text: 'PH-1 and PH-2' }), facts({ invoices: two }));
    expect(match).toMatchObject({ sure: true, because: ['number', 'amount'], over: EUR(0), short: EUR(0) });
    expect(match!.settles.map((s) => [s.number, s.amount.minor])).toEqual([
      ['PH-1', 1000],
      ['PH-2', 500],
    ]);
    expect(proposeMatches(line(1600, { text: 'PH-1, PH-2' }), facts({ invoices: two }))[0]).toMatchObject({
      sure: false,
      over: EUR(100),
      short: EUR(0),
    });
    expect(proposeMatches(line(1200, { text: 'PH-1, PH-2' }), facts({ invoices: two }))[0]).toMatchObject({
      sure: false,
      over: EUR(0),
      short: EUR(300),
    });
  });

  it('takes the invoice or the only sum of a payer that is known, else the oldest', () => {
    const open = [invoice('PH-1', 1000, 1, '2026-10-01'), invoice('PH-2', 500), invoice('PH-3', 700), invoice('PH-4', 700, 2)];
    const of = (minor: number, told: Partial<BankLine>) => proposeMatches(line(minor, told), facts({ invoices: open, payers: [hollin] }));
    expect(of(700, { payerAccount: 'XX11' })[0]).toMatchObject({
      because: ['account', 'amount'],
      sure: true,
      settles: [{ number: 'PH-3' }],
    });
    expect(of(1200, { payerAccount: 'XX11' })[0]).toMatchObject({
      because: ['account', 'several'],
      sure: true,
      settles: [{ number: 'PH-2' }, { number: 'PH-3' }],
    });
    expect(of(1200, { payer: 'HOLLIN PRECISION' })[0]).toMatchObject({ because: ['payer', 'several'], sure: false });
    expect(of(1100, { payer: 'Hollin Precision Ltd.' })[0]).toMatchObject({
      because: ['payer', 'oldest'],
      settles: [{ number: 'PH-1' }, { number: 'PH-2', amount: EUR(100) }],
      short: EUR(400),
    });
    expect(of(700, {}).map((m) => [m.because, m.sure])).toEqual([
      [['amount'], false],
      [['amount'], false],
    ]);
    expect(of(-700, { payerAccount: 'XX11' })).toEqual([]);
  });

  it('is what was written down before, within days of it', () => {
    const payment = { id: 'p1' as Id<'payment'>, clientId: client(1), amount: EUR(700), left: EUR(0), receivedOn: day('2026-11-20') };
    const known = facts({ invoices: [invoice('PH-3', 700)], payers: [hollin], payments: [payment] });
    expect(proposeMatches(line(700, { payerAccount: 'XX11' }), known)[0]).toMatchObject({ paymentId: 'p1', settles: [], sure: false });
    const long = { ...known, payments: [{ ...payment, receivedOn: day('2026-11-01') }] };
    expect(proposeMatches(line(700, { payerAccount: 'XX11' }), long)[0]).toMatchObject({ paymentId: null, sure: true });
    // Named and open: only money that has settled nothing else yet can be it, and a person says.
    const named = line(700, { text: 'PH-3', payerAccount: 'XX11' });
    expect(proposeMatches(named, known).map((m) => [m.paymentId, m.sure])).toEqual([[null, true]]);
    const unused = { ...known, payments: [{ ...payment, left: EUR(700) }] };
    expect(proposeMatches(named, unused).map((m) => [m.paymentId, m.sure])).toEqual([
      [null, false],
      ['p1', false],
    ]);
  });

  it('leaves to a person what two could be', () => {
    const both = facts({ invoices: [invoice('PH-1', 700, 1), invoice('AB-1', 700, 2)] });
    expect(proposeMatches(line(700, { text: 'PH-1 AB-1' }), both).map((m) => m.sure)).toEqual([false, false]);
  });

  it('uses each cent once, settles nothing with more than is left, and does not depend on the order of what is open', () => {
    const open = fc.array(
      fc.record({ minor: fc.integer({ min: 1, max: 300 }), of: fc.integer({ min: 1, max: 3 }), due: fc.integer({ min: 1, max: 28 }) }),
      { maxLength: 9 },
    );
    fc.assert(
      fc.property(open, fc.integer({ min: 1, max: 900 }), fc.subarray([0, 1, 2, 3, 4, 5]), fc.boolean(), (some, paid, said, known) => {
        const invoices = some.map((s, n) => invoice(`PH-${n}`, s.minor, s.of, `2026-10-${String(s.due).padStart(2, '0')}`));
        const told = line(paid, { text: said.map((n) => `PH-${n}`).join(' '), payerAccount: known ? 'XX11' : '' });
        const proposed = proposeMatches(told, facts({ invoices, payers: [hollin] }));
        expect(proposeMatches(told, facts({ invoices: invoices.toReversed(), payers: [hollin] }))).toEqual(proposed);
        for (const match of proposed) {
          const used = sumMoney(
            match.settles.map((s) => s.amount),
            'EUR',
          ).minor;
          expect(used + match.over.minor).toBe(paid);
          for (const s of match.settles) {
            const of = invoices.find((i) => i.id === s.invoiceId)!;
            expect([of.clientId, s.amount.minor > 0 && s.amount.minor <= of.left.minor]).toEqual([match.clientId, true]);
          }
          if (match.sure) expect([match.over.minor, match.short.minor]).toEqual([0, 0]);
        }
        expect(proposed.filter((m) => m.sure).length).toBeLessThan(2);
      }),
      { numRuns: 300 },
    );
  });

  it('compares names without what banks leave away', () => {
    expect(plainName('The Hollin Précision Co. Ltd')).toBe('hollin precision');
    expect(plainName('Ltd')).toBe('');
  });
});

describe('a file of a bank', () => {
  const how = { currency: 'EUR' as Currency, account: 'ours', name: 'nov', columns: null, dayFirst: null };
  const detail = (outcome: Outcome<unknown>) => (isRefusal(outcome) ? outcome.detail : '');
  const good = <T>(outcome: Outcome<T>): T => {
    if (isRefusal(outcome)) throw new Error(outcome.detail);
    return outcome;
  };

  it('reads amounts as banks write them', () => {
    const read = (typed: string, currency: Currency = 'EUR') => readDecimal(typed, currency)?.minor;
    expect(
      ['1,250.50', '1.250,50', '1250', '-12.00', '12.00-', '(12.5)', '€ 3', '1,250', 'EUR 7.10', '+5', "1'000.00"].map((t) => read(t)),
    ).toEqual([125050, 125050, 125000, -1200, -1200, -1250, 300, 125000, 710, 500, 100000]);
    expect(['', 'x', '1.2.3', '1,25,0', '12.345'].map((t) => read(t))).toEqual([undefined, undefined, undefined, undefined, 1234500]);
    expect([read('1.250', 'JPY'), read('1,250', 'KWD')]).toEqual([1250, 1250]);
  });

  it('reads what it wrote, whatever the marks', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -99_999_999, max: 99_999_999 }),
        fc.constantFrom([',', '.'], ['.', ','], ['', '.'], [' ', ',']),
        (minor, marks) => {
          const [whole, part] = [String(Math.floor(Math.abs(minor) / 100)), String(Math.abs(minor) % 100).padStart(2, '0')];
          const written = `${minor < 0 ? '-' : ''}${whole.replace(/\B(?=(\d{3})+$)/g, marks[0]!)}${marks[1]}${part}`;
          expect(readDecimal(written, 'EUR')).toEqual(EUR(minor));
        },
      ),
    );
  });

  it('guesses its columns, and asks for what it cannot know', () => {
    expect(guessColumns(['Booked on', 'Name', 'Reference', 'Paid in', 'Paid out'])).toEqual({ date: 0, payer: 1, text: 2, in: 3, out: 4 });
    const rows = (heads: string[], ...lines: string[][]) => readBankRows([heads, ...lines], how);
    const read = good(
      rows(['Date', 'Amount', 'Payer', 'Text'], ['24/11/2026', '12.50', 'Hollin', 'PH-1'], ['01/12/2026', '-3', '', 'fee']),
    );
    expect(read.lines.map((l) => [l.bookedOn, l.amount.minor, l.payer, l.place])).toEqual([
      ['2026-11-24', 1250, 'Hollin', 'line 2'],
      ['2026-12-01', -300, '', 'line 3'],
    ]);
    expect(rows(['Date', 'Amount', 'Text'], ['01/02/2026', '1', ''])).toMatchObject({ fields: { dayFirst: expect.any(String) } });
    const monthFirst = readBankRows(
      [
        ['Date', 'Amount', 'Text'],
        ['01/02/2026', '1', ''],
      ],
      { ...how, dayFirst: false },
    );
    expect(good(monthFirst).lines[0]!.bookedOn).toBe('2026-01-02');
    expect(rows(['Wann', 'Betrag', 'Text'], ['1.2.2026', '1', ''])).toMatchObject({ fields: { columns: expect.stringContaining('date') } });
    expect(
      good(
        readBankRows(
          [
            ['Wann', 'Betrag', 'Wofür'],
            ['1.2.2026', '1,00', 'x'],
          ],
          { ...how, columns: { date: 0, amount: 1, text: 2 } },
        ),
      ).lines,
    ).toHaveLength(1);
    expect(detail(rows(['Date', 'Amount', 'Text'], ['2026-11-24', '1', ''], ['2026-13-01', '1', '']))).toContain('line 3: "2026-13-01"');
    expect(detail(rows(['Date', 'Amount', 'Text'], ['2026-11-24', 'much', '']))).toContain('line 2: "much"');
    expect(detail(rows(['Date', 'In', 'Out', 'Text'], ['2026-11-24', '', '', '']))).toContain('line 2');
    expect(detail(rows(['Date', 'Amount']))).toContain('no lines');
  });

  it('tells a line that is read again from one that is there twice', () => {
    const statement = (lines: BankLine[]): BankStatement => ({
      account: 'a',
      currency: 'EUR',
      name: 'n',
      opening: null,
      closing: null,
      lines,
      announced: 0,
    });
    const [one, two] = [line(100, { text: 'x' }), line(100, { text: 'y' })];
    const first = lineKeys(statement([one, two, one]));
    expect(new Set(first).size).toBe(3);
    expect(lineKeys(statement([one, one]))).toEqual([first[0], first[2]]);
    expect(lineKeys(statement([line(1, { bankId: 'b1' })]))).not.toEqual(lineKeys(statement([line(1, { bankId: 'b2' })])));
  });

  const balance = (code: string, minor: string) => ({
    Tp: { CdOrPrtry: { Cd: code } },
    Amt: { '#text': minor, '@Ccy': 'EUR' },
    CdtDbtInd: 'CRDT',
  });
  const entry = (told: object) => ({
    Amt: { '#text': '12.50', '@Ccy': 'EUR' },
    CdtDbtInd: 'CRDT',
    Sts: 'BOOK',
    BookgDt: { Dt: '2026-11-24' },
    ...told,
  });
  const file = (stmt: object) => ({
    Document: { BkToCstmrStmt: { Stmt: { Id: 's1', Acct: { Id: { IBAN: 'XX00' }, Ccy: 'EUR' }, ...stmt } } },
  });

  it('reads camt.053, a collected entry as its transactions', () => {
    const part = (minor: string, name: string) => ({
      Refs: { EndToEndId: 'NOTPROVIDED' },
      Amt: { '#text': minor, '@Ccy': 'EUR' },
      RltdPties: { Dbtr: { Pty: { Nm: name } }, DbtrAcct: { Id: { IBAN: 'XX11' } } },
      RmtInf: { Ustrd: ['PH-1', 'thanks'] },
    });
    const ntry = [
      entry({ AcctSvcrRef: 'r1', NtryDtls: { TxDtls: [part('10.00', 'Hollin'), part('2.50', 'Vantry')] } }),
      entry({
        AcctSvcrRef: 'r2',
        CdtDbtInd: 'DBIT',
        NtryDtls: { TxDtls: { RltdPties: { Cdtr: { Nm: 'Power' } } } },
        AddtlNtryInf: 'power',
      }),
      entry({ Sts: { Cd: 'PDNG' } }),
    ];
    const [read] = good(readCamt(file({ Bal: [balance('OPBD', '5.00'), balance('CLBD', '5.00')], Ntry: ntry })));
    expect(read).toMatchObject({ account: 'XX00', name: 's1', announced: 1, opening: EUR(500) });
    expect(read!.lines.map((l) => [l.bankId, l.amount.minor, l.payer, l.payerAccount, l.text])).toEqual([
      ['r1/1', 1000, 'Hollin', 'XX11', 'PH-1 thanks'],
      ['r1/2', 250, 'Vantry', 'XX11', 'PH-1 thanks'],
      ['r2', -1250, 'Power', '', 'power'],
    ]);
  });

  it('refuses a statement of which lines are missing, and names what cannot be read', () => {
    const lost = readCamt(file({ Bal: [balance('OPBD', '5.00'), balance('CLBD', '99.00')], Ntry: entry({}) }));
    expect(detail(lost)).toContain('opens with €5.00 and closes with €99.00, but its lines lead to €17.50');
    expect(detail(readCamt(file({ Ntry: [entry({}), entry({ Amt: { '#text': 'x', '@Ccy': 'EUR' } })] })))).toContain(
      'statement 1, entry 2, amount "x"',
    );
    expect(detail(readCamt(file({ Ntry: entry({ BookgDt: { Dt: '2026-02-30' } }) })))).toContain('day "2026-02-30"');
    expect(detail(readCamt(file({ Acct: { Ccy: 'XXX' } })))).toContain('currency "XXX"');
    for (const none of ['', {}, { Document: 'x' }, { Document: { BkToCstmrStmt: [] } }]) expect(isRefusal(readCamt(none))).toBe(true);
  });
});
