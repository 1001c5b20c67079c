import { daysBetween, type Id, type LocalDate, money, type Money, sumMoney } from '../../ground';
import { allocateMoney } from '../payments';
import type { BankLine } from './bank-statement';

/** An invoice of which something is left to pay. */
export interface OpenInvoice {
  readonly id: Id<'invoice'>;
  readonly number: string;
  readonly clientId: Id<'client'>;
  readonly left: Money;
  readonly dueOn: LocalDate;
}

/** How a client is known on bank statements. */
export interface KnownPayer {
  readonly clientId: Id<'client'>;
  readonly names: readonly string[];
  /** Accounts of lines that were matched with it before. */
  readonly accounts: readonly string[];
}

/** Money of a client that was written down already, and of which no bank line is known. */
export interface KnownPayment {
  readonly id: Id<'payment'>;
  readonly clientId: Id<'client'>;
  readonly amount: Money;
  /** What it has not settled yet. */
  readonly left: Money;
  readonly receivedOn: LocalDate;
}

export interface MatchFacts {
  readonly invoices: readonly OpenInvoice[];
  readonly payers: readonly KnownPayer[];
  readonly payments: readonly KnownPayment[];
}

/** Why a line may be for what is proposed. */
export const MATCH_REASONS = ['number', 'account', 'payer', 'amount', 'several', 'oldest', 'recorded'] as const;
export type MatchReason = (typeof MATCH_REASONS)[number];

/** The facts by what a line may say of them, so that thousands of lines are held against thousands of invoices. */
export interface MatchIndex {
  /** By when they are due, then by number; those of which nothing is left are left out. */
  readonly byClient: ReadonlyMap<string, readonly OpenInvoice[]>;
  readonly byDigits: ReadonlyMap<string, readonly OpenInvoice[]>;
  readonly byAmount: ReadonlyMap<number, readonly OpenInvoice[]>;
  readonly byAccount: ReadonlyMap<string, readonly Id<'client'>[]>;
  readonly byName: ReadonlyMap<string, readonly Id<'client'>[]>;
  readonly payments: ReadonlyMap<string, readonly KnownPayment[]>;
}

export function indexFacts({ invoices, payers, payments }: MatchFacts): MatchIndex {
  const open = invoices.filter(({ left }) => left.minor > 0).toSorted((a, b) => compare(a.dueOn, b.dueOn) || compare(a.number, b.number));
  const known = payers.toSorted((a, b) => compare(a.clientId, b.clientId));
  const accounts = known.flatMap(({ clientId, accounts }) => accounts.filter(Boolean).map((account) => ({ clientId, key: account })));
  const names = known.flatMap(({ clientId, names }) => names.map((name) => ({ clientId, key: plainName(name) })).filter(({ key }) => key));
  return {
    byClient: by(open, ({ clientId }) => clientId),
    byDigits: by(open, ({ number }) => lastDigits(number)),
    byAmount: by(open, ({ left }) => left.minor),
    byAccount: clientsBy(accounts),
    byName: clientsBy(names),
    payments: by(payments, ({ clientId }) => clientId),
  };
}

function by<T, K>(all: readonly T[], keyOf: (one: T) => K): ReadonlyMap<K, readonly T[]> {
  const found = new Map<K, T[]>();
  for (const one of all) {
    const of = found.get(keyOf(one));
    if (of) of.push(one);
    else found.set(keyOf(one), [one]);
  }
  return found;
}

function clientsBy(
  all: readonly { readonly clientId: Id<'client'>; readonly key: string }[],
): ReadonlyMap<string, readonly Id<'client'>[]> {
  return new Map([...by(all, ({ key }) => key)].map(([key, of]) => [key, [...new Set(of.map(({ clientId }) => clientId))]]));
}

/** The digits that a number ends with, without zeros before them. */
function lastDigits(number: string): string {
  return (/\d+$/.exec(number)?.[0] ?? '').replace(/^0+/, '');
}

export interface Match {
  readonly clientId: Id<'client'>;
  /** What it settles, in this order. */
  readonly settles: readonly { readonly invoiceId: Id<'invoice'>; readonly number: string; readonly amount: Money }[];
  /** The payment that it is, where it was written down before. */
  readonly paymentId: Id<'payment'> | null;
  /** What stays the client's credit. */
  readonly over: Money;
  /** What is left of the invoices that it settles in part. */
  readonly short: Money;
  readonly because: readonly MatchReason[];
  /** Whether nothing speaks against it: a person need not look twice. */
  readonly sure: boolean;
}

/** So many proposals are given at most; a payment that was written down may be this many days from the bank's day. */
const MOST_PROPOSALS = 4;
const DAYS_APART = 10;
/** Sums of several invoices are looked for among so many. */
const MOST_SUMMED = 14;

/**
 * What a line may be for, the likeliest first: invoices whose numbers it names, else those of a payer that is known whose
 * sum it is, else the oldest; or invoices of exactly this amount. Source: docs/calculations.md, Money from the bank.
 */
export function proposeMatches(line: BankLine, facts: MatchIndex): readonly Match[] {
  if (line.amount.minor <= 0) return [];
  const ours = ({ left }: OpenInvoice) => left.currency === line.amount.currency;
  const named = namedIn(line, facts).filter(ours);
  const known = knownBy(line, facts);
  const clients = [...new Set([...named.map((i) => i.clientId), ...known.keys()])];
  const proposals = clients.flatMap((clientId) => {
    const theirs = (facts.byClient.get(clientId) ?? []).filter(ours);
    const namedHere = theirs.filter((i) => named.includes(i));
    const because = known.get(clientId) ?? [];
    // What is named and still open was not paid by money that has settled something else with all of it.
    const written = (facts.payments.get(clientId) ?? []).filter((p) => isIt(line, p) && (!namedHere.length || p.left.minor > 0));
    const same = written.slice(0, 1).map((p) => recorded(line, p, [...because, 'recorded', 'amount']));
    if (namedHere.length) return [byNumber(line, namedHere, because), ...same];
    return same.length ? same : [byPayer(line, { clientId, theirs, because })];
  });
  const alike = (facts.byAmount.get(line.amount.minor) ?? [])
    .filter((i) => ours(i) && !clients.includes(i.clientId))
    .map((i) => settle(line, { clientId: i.clientId, invoices: [i], because: ['amount'] }));
  const all = [...proposals, ...alike]
    .toSorted((a, b) => weight(b) - weight(a) || compare(a.clientId, b.clientId))
    .slice(0, MOST_PROPOSALS);
  // Where two fit as well, a person chooses.
  const one = all.filter((match) => match.paymentId || isSure(match)).length === 1;
  return all.map((match) => ({ ...match, sure: one && isSure(match) }));
}

function namedIn({ text }: BankLine, { byDigits }: MatchIndex): readonly OpenInvoice[] {
  const digits = new Set([...text.matchAll(/\d+/g)].map(([run]) => run.replace(/^0+/, '')));
  return [...digits].flatMap((run) => (byDigits.get(run) ?? []).filter(({ number }) => names(text, number)));
}

/** Numbers named by a payer: written with or without the marks between their parts, and not as a part of another number. */
export function names(text: string, number: string): boolean {
  const parts = number.split(/[^A-Za-z0-9]+/).filter(Boolean);
  const written = parts.map((part) => part.replace(/0*(\d+)$/, '0*$1')).join('[^A-Za-z0-9]*');
  return new RegExp(`(^|[^A-Za-z0-9])${written}(?![0-9])`, 'i').test(text);
}

/** Clients that the account or the name of a line is of, each with which. */
function knownBy({ payer, payerAccount }: BankLine, { byAccount, byName }: MatchIndex): ReadonlyMap<Id<'client'>, MatchReason[]> {
  const known = new Map<Id<'client'>, MatchReason[]>();
  const add = (of: readonly Id<'client'>[] | undefined, reason: MatchReason) => {
    for (const clientId of of ?? []) known.set(clientId, [...(known.get(clientId) ?? []), reason]);
  };
  if (payerAccount) add(byAccount.get(payerAccount), 'account');
  add(byName.get(plainName(payer)), 'payer');
  return known;
}

/** Words that companies have in common and banks leave away. */
const COMMON = new Set(['ltd', 'limited', 'inc', 'llc', 'plc', 'co', 'company', 'gmbh', 'sa', 'bv', 'the', 'and']);

/** A name as it can be compared: without marks, case, and the words of a company's form. */
export function plainName(name: string): string {
  const words = name
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u);
  return words.filter((word) => word && !COMMON.has(word)).join(' ');
}

function isIt({ amount, bookedOn }: BankLine, p: KnownPayment): boolean {
  return (
    p.amount.minor === amount.minor && p.amount.currency === amount.currency && Math.abs(daysBetween(bookedOn, p.receivedOn)) <= DAYS_APART
  );
}

function recorded(line: BankLine, payment: KnownPayment, because: readonly MatchReason[]): Match {
  const nothing = money(0, line.amount.currency);
  return { clientId: payment.clientId, settles: [], paymentId: payment.id, over: nothing, short: nothing, because, sure: false };
}

function byNumber(line: BankLine, invoices: readonly OpenInvoice[], because: readonly MatchReason[]): Match {
  const exact =
    sumMoney(
      invoices.map((i) => i.left),
      line.amount.currency,
    ).minor === line.amount.minor;
  return settle(line, {
    clientId: invoices[0]!.clientId,
    invoices,
    because: ['number', ...because, ...(exact ? (['amount'] as const) : [])],
  });
}

interface OfPayer {
  readonly clientId: Id<'client'>;
  readonly theirs: readonly OpenInvoice[];
  readonly because: readonly MatchReason[];
}

function byPayer(line: BankLine, { clientId, theirs, because }: OfPayer): Match {
  const one = theirs.find((i) => i.left.minor === line.amount.minor);
  if (one) return settle(line, { clientId, invoices: [one], because: [...because, 'amount'] });
  const several = onlySum(theirs.slice(0, MOST_SUMMED), line.amount.minor);
  if (several) return settle(line, { clientId, invoices: several, because: [...because, 'several'] });
  return settle(line, { clientId, invoices: theirs, because: [...because, 'oldest'] });
}

/** The invoices that come to an amount together, where only one choice of them does. */
function onlySum(invoices: readonly OpenInvoice[], minor: number): readonly OpenInvoice[] | undefined {
  const found: (readonly OpenInvoice[])[] = [];
  const choose = (from: number, rest: number, chosen: readonly OpenInvoice[]): void => {
    if (rest === 0) return void found.push(chosen);
    for (let n = from; n < invoices.length && found.length < 2; n++)
      if (invoices[n]!.left.minor <= rest) choose(n + 1, rest - invoices[n]!.left.minor, [...chosen, invoices[n]!]);
  };
  choose(0, minor, []);
  return found.length === 1 ? found[0] : undefined;
}

function settle(
  line: BankLine,
  { clientId, invoices, because }: { clientId: Id<'client'>; invoices: readonly OpenInvoice[]; because: readonly MatchReason[] },
): Match {
  const { settled, over } = allocateMoney(line.amount, invoices);
  const settles = settled.map(({ id, amount }) => ({
    invoiceId: id as Id<'invoice'>,
    number: invoices.find((i) => i.id === id)!.number,
    amount,
  }));
  const touched = invoices.filter((i) => settles.some((s) => s.invoiceId === i.id));
  const short = money(
    sumMoney(
      touched.map((i) => i.left),
      line.amount.currency,
    ).minor -
      (line.amount.minor - over.minor),
    line.amount.currency,
  );
  return { clientId, settles, paymentId: null, over, short, because, sure: false };
}

/** Named and to the cent; or from an account that is known, and to the cent. */
function isSure({ because, over, short, paymentId }: Match): boolean {
  if (paymentId || over.minor || short.minor) return false;
  return because.includes('number') || (because.includes('account') && (because.includes('amount') || because.includes('several')));
}

const WEIGHTS: Readonly<Record<MatchReason, number>> = { number: 32, recorded: 16, account: 8, amount: 4, several: 3, payer: 2, oldest: 0 };

function weight({ because }: Match): number {
  return because.reduce((sum, reason) => sum + WEIGHTS[reason], 0);
}

function compare(a: string, b: string): number {
  return a < b ? -1 : a > b ? 1 : 0;
}
