import type { BankLine, BankStatement } from '@core/billing';
import { formatMoney, type Id, isRefusal, type LocalDate, money, type Money, plusDays } from '@core/ground';
import { matchLine } from '../../billing/bank/match-line';
import { keepStatement } from '../../billing/bank/read-bank-file';
import type { Row } from '../rows';
import type { Work } from '../work';
import { workOn } from './work-on';

const ACCOUNT = 'ZZ41 PELL 0000 0071 2204';
const FILE = { blob: null, bytes: 0 };

/** An invoice of the demo with what is left of it and whose it is. */
type Billed = Row<'invoice', 'id' | 'number' | 'client_id' | 'gross_minor' | 'currency' | 'due_on'> & {
  readonly client: string;
  readonly client_number: number;
  readonly settled_minor: number;
};

/**
 * Bank statements: an older one whose lines are the payments that the ledger told of, so that payers are known by
 * their accounts, and yesterday's, whose lines wait to be matched.
 */
export async function loadDemoBank(work: Work, today: LocalDate): Promise<void> {
  const paid = await paidByLedger(work);
  if (!paid.length) return;
  const older = paid.map((p) => lineOf(p, { amount: money(p.amount_minor, p.currency), text: p.number, on: p.received_on }));
  const statementId = await keep(work, { name: '218', lines: older });
  const lines: Row<'bank_line'>[] = await work.tx('bank_line').where({ statement_id: statementId, state: 'open' }).orderBy('position');
  for (const line of lines) {
    const payment = paid[line.position - 1]!;
    const done = await matchLine(work, { lineId: line.id, clientId: payment.client_id, settles: [], paymentId: payment.id });
    if (isRefusal(done)) throw new Error(done.detail);
  }
  await payPart(workOn(work, plusDays(today, -13)), today);
  await keep(work, { name: '231', lines: toMatch(await lately(work, today), today) });
}

/** Somebody who is late has paid some of it. */
async function payPart(work: Work, today: LocalDate): Promise<void> {
  const [late] = (await openInvoices(work)).filter((i) => i.due_on < plusDays(today, -30));
  if (!late) return;
  const amount = money(Math.floor((late.gross_minor - late.settled_minor) / 300) * 100, late.currency);
  const line = lineOf(late, { amount, text: `part of ${late.number}, the rest follows`, on: plusDays(today, -14) });
  const statementId = await keep(work, { name: '222', lines: [line] });
  const kept = (await work.tx('bank_line').where({ statement_id: statementId }).first('id'))!;
  const settles = [{ invoiceId: late.id, minor: amount.minor }];
  const done = await matchLine(work, { lineId: kept.id, clientId: late.client_id, settles, paymentId: null });
  if (isRefusal(done)) throw new Error(done.detail);
}

/** What came lately: exact, without a number, too much, too little, of nobody known, and money that went out. */
function toMatch(open: readonly Billed[], today: LocalDate): readonly BankLine[] {
  const on = plusDays(today, -1);
  const left = (i: Billed, minor = i.gross_minor - i.settled_minor): Money => money(minor, i.currency);
  const [exact, quiet, over, part, second] = open;
  const other = (minor: number, told: Partial<BankLine>): BankLine => ({
    ...{
      place: 'entry',
      bankId: null,
      bookedOn: on,
      payer: '',
      payerAccount: '',
      text: '',
      amount: money(minor, exact?.currency ?? 'EUR'),
      ...told,
    },
  });
  return [
    ...(exact ? [lineOf(exact, { amount: left(exact), text: `Invoice ${exact.number} with thanks`, on })] : []),
    ...(second ? [lineOf(second, { amount: left(second), text: second.number.replace('-', ' '), on })] : []),
    ...(quiet ? [lineOf(quiet, { amount: left(quiet), text: 'monthly services', on })] : []),
    ...(over ? [lineOf(over, { amount: left(over, over.gross_minor - over.settled_minor + 1200), text: over.number, on })] : []),
    ...(part
      ? [lineOf(part, { amount: left(part, Math.floor((part.gross_minor - part.settled_minor) / 2)), text: `half of ${part.number}`, on })]
      : []),
    other(15_000, { payer: 'Cash deposit, Quay Street', text: 'deposit 0412' }),
    other(-1_250, { text: 'account fee November' }),
    other(-184_600, { payer: 'Oxmoor Power and Light', text: 'electricity October' }),
  ];
}

function lineOf(
  of: { readonly client: string; readonly client_number: number },
  { amount, text, on }: { readonly amount: Money; readonly text: string; readonly on: LocalDate },
): BankLine {
  const payerAccount = `ZZ77 0000 ${String(4000 + of.client_number)}`;
  return {
    place: `entry of ${formatMoney(amount)}`,
    bankId: null,
    bookedOn: on,
    amount,
    payer: of.client.toUpperCase(),
    payerAccount,
    text,
  };
}

async function keep(
  work: Work,
  { name, lines }: { readonly name: string; readonly lines: readonly BankLine[] },
): Promise<Id<'bank_statement'>> {
  const currency = work.book.house.currency;
  const sum = lines.reduce((all, l) => all + l.amount.minor, 0);
  const [opening, closing] = [money(4_210_055, currency), money(4_210_055 + sum, currency)];
  const statement: BankStatement = { account: ACCOUNT, currency, name, opening, closing, lines, announced: 0 };
  return keepStatement(work, { statement, file: { file_name: `statement-${name}.xml`, ...FILE } });
}

type Paid = Row<'payment'> & {
  readonly client_id: Id<'client'>;
  readonly number: string;
  readonly client: string;
  readonly client_number: number;
};

async function paidByLedger({ tx }: Work): Promise<Paid[]> {
  return tx('payment as p')
    .join('client as c', 'c.id', 'p.client_id')
    .where('p.source', 'ledger')
    .orderBy(['p.received_on', 'p.reference'])
    .select('p.*', 'c.name as client', 'c.number as client_number', tx.raw(`replace(p.reference, 'transfer for ', '') as number`));
}

/** What is open and not late for long: of the others nothing came. */
async function lately(work: Work, today: LocalDate): Promise<Billed[]> {
  return (await openInvoices(work)).filter((i) => i.due_on >= plusDays(today, -30));
}

async function openInvoices({ tx }: Work): Promise<Billed[]> {
  return tx('invoice as i')
    .join('invoice_standing as s', 's.invoice_id', 'i.id')
    .join('client as c', 'c.id', 'i.client_id')
    .where('i.kind', 'invoice')
    .whereRaw('s.settled_minor < i.gross_minor')
    .orderBy(['i.due_on', 'i.number'])
    .select(
      'i.id',
      'i.number',
      'i.client_id',
      'i.gross_minor',
      'i.currency',
      'i.due_on',
      's.settled_minor',
      'c.name as client',
      'c.number as client_number',
    );
}
