import {
  type BankLineState,
  type BankLineWire,
  type BankStatementWire,
  firstRowOf,
  markOf,
  type MatchReason,
  type MatchWire,
} from '@core/billing';
import { formatMoney, plural } from '@core/ground';

export const BANK_VIEWS: readonly { readonly state: BankLineState; readonly words: string; readonly none: string }[] = [
  { state: 'open', words: 'To match', none: 'Every line is matched or left out' },
  { state: 'matched', words: 'Matched', none: 'No line is matched yet' },
  { state: 'left out', words: 'Left out', none: 'No line is left out' },
  { state: 'went out', words: 'Went out', none: 'No money went out' },
];

const BECAUSE: Readonly<Record<MatchReason, string>> = {
  number: 'names the invoice',
  recorded: 'a payment of this amount is recorded',
  account: 'from their account',
  payer: 'their name',
  amount: 'to the cent',
  several: 'the only invoices that come to it',
  oldest: 'the oldest first',
};

export function sayBecause({ because }: MatchWire): string {
  // An account says more than a name.
  const said = because.filter((reason) => reason !== 'payer' || !because.includes('account'));
  return said.map((reason) => BECAUSE[reason]).join(', ');
}

/** What a match does beside settling: what stays credit, what stays owed. */
export function sayRest({ over, short }: Pick<MatchWire, 'over' | 'short'>): string {
  if (over.minor) return `${formatMoney(over)} stays their credit`;
  return short.minor ? `${formatMoney(short)} stays owed` : '';
}

/** What reading a file brought. */
export function sayRead(statements: readonly BankStatementWire[]): string {
  const sum = (of: (s: BankStatementWire) => number) => statements.reduce((all, s) => all + of(s), 0);
  const [lines, known, announced] = [sum((s) => s.lines), sum((s) => s.known), sum((s) => s.announced)];
  const more = [known && `${known} known already`, announced && `${announced} announced and not booked yet, not read`].filter(Boolean);
  return [plural(lines, 'new line'), ...more].join(', ');
}

/** A line as a button names it. */
export function nameLine({ payer, amount, text }: BankLineWire): string {
  return `${formatMoney(amount)} of ${payer ?? text ?? 'nobody named'}`;
}

/** The heads of a CSV file's columns, in order. */
export function headsOf(text: string): readonly string[] {
  const bare = text.replace(/^\uFEFF/, '');
  return firstRowOf(bare)
    .split(markOf(bare))
    .map((head) => head.trim().replace(/^"|"$/g, ''));
}
