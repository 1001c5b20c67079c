import { type Currency, type Money, plainMoney } from '../../ground';
import type { Account, JournalEntry } from './journal-entry';

/** Plain text as hledger and ledger read it: every account is declared, so that a reader can be strict. */
export function writeLedger(entries: readonly JournalEntry[]): string {
  const accounts = accountsOf(entries).map((account) => `account ${account}`);
  const commodities = currenciesOf(entries).map((currency) => `commodity ${currency}\n    format ${format(currency)}`);
  const body = entries.map((e) =>
    [`${e.on} * (${code(e.name)}) ${describe(e)}`, ...e.postings.map((p) => `    ${p.account.join(':')}  ${say(p.amount)}`)].join('\n'),
  );
  return `${[...commodities, ...accounts, '', ...body].join('\n')}\n`;
}

/** Plain text as beancount reads it: accounts are opened on the day of the first entry. */
export function writeBeancount(entries: readonly JournalEntry[]): string {
  const first = entries[0]?.on;
  const opens = first ? accountsOf(entries).map((account) => `${first} open ${account}`) : [];
  const body = entries.map((e) =>
    [
      `${e.on} * "${quoted(e.client)}" "${quoted(`${e.what} ${e.name}`)}"`,
      ...e.postings.map((p) => `  ${p.account.join(':')}  ${say(p.amount)}`),
    ].join('\n'),
  );
  return `${['option "title" "Drumline"', ...opens, '', ...body.flatMap((text) => [text, ''])].join('\n')}\n`;
}

export interface AccountSum {
  /** Year and month: 2026-11. */
  readonly month: string;
  readonly account: string;
  readonly debit: Money;
  readonly credit: Money;
}

/** What each account was debited and credited by month. */
export function sumAccounts(entries: readonly JournalEntry[]): readonly AccountSum[] {
  const sums = new Map<string, { month: string; account: string; currency: Currency; debit: number; credit: number }>();
  for (const { on, postings } of entries)
    for (const { account, amount } of postings) {
      const [month, name] = [on.slice(0, 7), account.join(':')];
      const key = [month, name, amount.currency].join('|');
      const sum = sums.get(key) ?? { month, account: name, currency: amount.currency, debit: 0, credit: 0 };
      if (amount.minor > 0) sum.debit += amount.minor;
      else sum.credit -= amount.minor;
      sums.set(key, sum);
    }
  return [...sums]
    .toSorted(([a], [b]) => (a < b ? -1 : 1))
    .map(([, s]) => ({
      month: s.month,
      account: s.account,
      debit: { minor: s.debit, currency: s.currency },
      credit: { minor: s.credit, currency: s.currency },
    }));
}

/** The sums as CSV (RFC 4180). No field needs quotes: names of accounts have neither commas nor quotes. */
export function writeAccountsCsv(entries: readonly JournalEntry[]): string {
  const rows = sumAccounts(entries).map((s) => [s.month, s.account, plainMoney(s.debit), plainMoney(s.credit), s.debit.currency]);
  return [['month', 'account', 'debit', 'credit', 'currency'], ...rows].map((row) => `${row.join(',')}\r\n`).join('');
}

function accountsOf(entries: readonly JournalEntry[]): readonly string[] {
  const name = (account: Account) => account.join(':');
  return [...new Set(entries.flatMap((e) => e.postings.map((p) => name(p.account))))].sort();
}

function currenciesOf(entries: readonly JournalEntry[]): readonly Currency[] {
  return [...new Set(entries.flatMap((e) => e.postings.map((p) => p.amount.currency)))].sort();
}

function say(amount: Money): string {
  return `${plainMoney(amount)} ${amount.currency}`;
}

function format(currency: Currency): string {
  return say({ minor: 100_000, currency });
}

/** A code stands in parentheses and ends with the first of them. */
function code(name: string): string {
  return oneLine(name.replace(/[()]/g, ' '));
}

/** After a semicolon or a bar something else would begin. */
function describe({ what, client }: JournalEntry): string {
  return oneLine(`${what}, ${client || 'nobody known'}`.replace(/[;|]/g, ' '));
}

function quoted(text: string): string {
  return oneLine(text).replaceAll('\\', '\\\\').replaceAll('"', '\\"');
}

function oneLine(text: string): string {
  return text.replace(/\s+/g, ' ').trim();
}
