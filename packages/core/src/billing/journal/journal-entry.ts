import { type LocalDate, type Money, money, sumMoney } from '../../ground';
import type { Tax } from '../../goods';
import type { ChargeKind } from '../charges';
import type { DocumentKind } from '../invoices';

/** Accounts by their parts, the broadest first: Assets, Receivable, 1001. Source: docs/calculations.md, The journal. */
export type Account = readonly string[];

export interface Posting {
  readonly account: Account;
  readonly amount: Money;
}

/** One thing that is booked: what it debits is above nothing, what it credits below, and together they are nothing. */
export interface JournalEntry {
  readonly on: LocalDate;
  readonly what: DocumentKind | 'payment' | 'payment taken back';
  /** The number of a document, or what a payment is called. */
  readonly name: string;
  /** Whose it is; empty where nobody knows. */
  readonly client: string;
  readonly postings: readonly Posting[];
}

export interface BookedDocument {
  readonly kind: DocumentKind;
  readonly number: string;
  readonly on: LocalDate;
  readonly client: string;
  readonly clientNumber: number;
  /** Net amounts by what they were for; of a credit note, what it gives. */
  readonly nets: readonly { readonly kind: ChargeKind; readonly net: Money }[];
  readonly taxes: readonly { readonly tax: Tax; readonly amount: Money }[];
  readonly gross: Money;
}

export interface BookedPayment {
  readonly what: 'payment' | 'payment taken back';
  readonly on: LocalDate;
  readonly name: string;
  readonly client: string;
  /** Null where nobody knows whose it is. */
  readonly clientNumber: number | null;
  readonly amount: Money;
}

const INCOME: Readonly<Record<ChargeKind, string>> = {
  labour: 'Labour',
  product: 'Goods',
  fee: 'Fees',
  expense: 'Expenses-charged-on',
  recurring: 'Recurring',
};

/** An invoice: its client owes what it comes to, by income and tax; a credit note the other way round. */
export function bookDocument({ kind, number, on, client, clientNumber, nets, taxes, gross }: BookedDocument): JournalEntry {
  const way = kind === 'credit note' ? -1 : 1;
  const postings = [
    { account: receivable(clientNumber), amount: money(way * gross.minor, gross.currency) },
    ...nets.map((n) => ({ account: ['Income', INCOME[n.kind]], amount: money(-way * n.net.minor, n.net.currency) })),
    ...taxes.map(({ tax, amount }) => ({ account: taxAccount(tax), amount: money(-way * amount.minor, amount.currency) })),
  ];
  return { on, what: kind, name: number, client, postings: postings.filter(({ amount }) => amount.minor !== 0) };
}

/** Money that came: the bank has more, and its client owes less. Taken back: the other way round. */
export function bookPayment({ what, on, name, client, clientNumber, amount }: BookedPayment): JournalEntry {
  const minor = what === 'payment' ? amount.minor : -amount.minor;
  const from = clientNumber === null ? ['Liabilities', 'Unknown-payers'] : receivable(clientNumber);
  return {
    ...{ on, what, name, client },
    postings: [
      { account: ['Assets', 'Receipts'], amount: money(minor, amount.currency) },
      { account: from, amount: money(-minor, amount.currency) },
    ],
  };
}

function receivable(clientNumber: number): Account {
  return ['Assets', 'Receivable', `Client-${clientNumber}`];
}

function taxAccount({ category, percent }: Tax): Account {
  return ['Liabilities', 'Tax', `${category}-${percent.replace(/\.?0+$/, '').replace('.', '-')}`];
}

/** Whether an entry comes to nothing, in its one currency. */
export function isBalanced({ postings }: JournalEntry): boolean {
  const [first] = postings;
  return (
    !first ||
    sumMoney(
      postings.map((p) => p.amount),
      first.amount.currency,
    ).minor === 0
  );
}
