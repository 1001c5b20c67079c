import {
  CURRENCY_DECIMALS,
  type Currency,
  isRefusal,
  type LocalDate,
  money,
  type Money,
  type Outcome,
  parseLocalDate,
  parseMoney,
  refuse,
} from '../../ground';
import { BANK_NAME, BANK_TEXT, type BankLine, type BankStatement, MOST_BANK_LINES } from './bank-statement';

/** What columns of a CSV file of a bank can be. */
export const BANK_COLUMNS = ['date', 'amount', 'in', 'out', 'payer', 'account', 'text', 'id'] as const;
export type BankColumn = (typeof BANK_COLUMNS)[number];
/** Which column is what, by its number from 0. */
export type ChosenColumns = Readonly<Partial<Record<BankColumn, number>>>;

/** Heads that banks commonly give their columns, in small letters without anything but letters. */
const HEADS: Readonly<Record<BankColumn, readonly string[]>> = {
  date: ['date', 'bookingdate', 'bookedon', 'transactiondate', 'posteddate', 'dateposted', 'valuedate'],
  amount: ['amount', 'transactionamount', 'value', 'sum'],
  in: ['in', 'credit', 'paidin', 'moneyin', 'creditamount', 'received'],
  out: ['out', 'debit', 'paidout', 'moneyout', 'debitamount', 'spent'],
  payer: ['payer', 'name', 'counterparty', 'counterpartyname', 'from', 'payername', 'payee'],
  account: ['account', 'iban', 'counterpartyaccount', 'counterpartyiban', 'payeraccount'],
  text: ['text', 'reference', 'description', 'details', 'purpose', 'memo', 'narrative', 'remittanceinformation'],
  id: ['id', 'transactionid', 'bankreference', 'entryid'],
};

export interface ReadRows {
  readonly currency: Currency;
  /** Whose account it is, as whoever brings the file says. */
  readonly account: string;
  readonly name: string;
  /** Null where the heads say it. */
  readonly columns: ChosenColumns | null;
  /** Of days such as 03/04/2026; null where the file says it by itself. */
  readonly dayFirst: boolean | null;
}

/**
 * Reads the rows of a bank's CSV file, the first of which names its columns.
 * @returns a refusal that names what has to be said first (fields "columns", "dayFirst"), or the row that cannot be read
 */
export function readBankRows(rows: readonly (readonly string[])[], how: ReadRows): Outcome<BankStatement> {
  const [heads, ...body] = rows;
  if (!heads || !body.length)
    return refuse('invalid', 'The file has no lines: its first row names the columns, the others follow.', {
      file: 'a row of heads and at least one line',
    });
  if (body.length > MOST_BANK_LINES)
    return refuse('invalid', `The file has ${body.length} lines.`, { file: `at most ${MOST_BANK_LINES} lines` });
  const columns = how.columns ?? guessColumns(heads);
  const missing = missingColumns(columns);
  if (missing)
    return refuse('invalid', `No column is known to be the ${missing}. Columns there: ${heads.join(', ').slice(0, 500)}.`, {
      columns: `say which column is the ${missing}`,
    });
  const days = body.map((row) => row[columns.date!]?.trim() ?? '');
  const order = how.dayFirst ?? dayComesFirst(days);
  if (order === undefined)
    return refuse('invalid', `Days such as ${days.find((d) => d.includes('/'))} can be read in two ways.`, {
      dayFirst: 'say whether the day or the month comes first',
    });
  const lines: BankLine[] = [];
  for (const [n, row] of body.entries()) {
    const line = readRow(row, { columns, dayFirst: order, currency: how.currency, place: `line ${n + 2}` });
    if (isRefusal(line)) return line;
    lines.push(line);
  }
  return { account: how.account, currency: how.currency, name: how.name, opening: null, closing: null, lines, announced: 0 };
}

/** Marks that part the fields of a row. */
const MARKS = [',', ';', '\t', '|'] as const;

/** The mark that parts the fields of a file: the one that its first row has most of. */
export function markOf(text: string): string {
  const first = firstRowOf(text);
  return MARKS.toSorted((a, b) => first.split(b).length - first.split(a).length)[0]!;
}

/** The first row of a file, without its end. */
export function firstRowOf(text: string): string {
  return text.slice(0, text.search(/[\r\n]|$/));
}

/** Which column is what, as far as its heads say. */
export function guessColumns(heads: readonly string[]): ChosenColumns {
  const plain = heads.map((head) => head.toLowerCase().replace(/[^a-z]/g, ''));
  const found: Partial<Record<BankColumn, number>> = {};
  for (const column of BANK_COLUMNS)
    for (const head of HEADS[column]) {
      const at = plain.indexOf(head);
      if (at >= 0 && found[column] === undefined && !Object.values(found).includes(at)) found[column] = at;
    }
  return found;
}

function missingColumns({ date, amount, in: came, text, payer }: ChosenColumns): string | undefined {
  if (date === undefined) return 'date';
  if (amount === undefined && came === undefined) return 'amount';
  return text === undefined && payer === undefined ? 'text' : undefined;
}

/** Whether 03/04 is a day of April; undefined where all days of the file could be read either way. */
function dayComesFirst(days: readonly string[]): boolean | undefined {
  const slashed = days.map((d) => /^(\d{1,2})\/(\d{1,2})\/\d{4}/.exec(d)).filter((m) => m !== null);
  if (!slashed.length) return true;
  if (slashed.some((m) => Number(m[1]) > 12)) return true;
  return slashed.some((m) => Number(m[2]) > 12) ? false : undefined;
}

interface RowToRead {
  readonly columns: ChosenColumns;
  readonly dayFirst: boolean;
  readonly currency: Currency;
  readonly place: string;
}

function readRow(row: readonly string[], { columns, dayFirst, currency, place }: RowToRead): Outcome<BankLine> {
  const at = (column: BankColumn) => (columns[column] === undefined ? '' : (row[columns[column]] ?? '').trim());
  const bookedOn = readDay(at('date'), dayFirst);
  if (!bookedOn)
    return refuse('invalid', `${place}: "${at('date').slice(0, 40)}" is no day.`, { file: 'days such as 2026-11-24 or 24/11/2026' });
  const amount = columns.amount === undefined ? inOrOut(at('in'), at('out'), currency) : readDecimal(at('amount'), currency);
  if (!amount) {
    const given = columns.amount === undefined ? `${at('in')} / ${at('out')}` : at('amount');
    return refuse('invalid', `${place}: "${given.slice(0, 40)}" is no amount of ${currency}.`, {
      file: 'amounts such as 1,250.50 or -1.250,50',
    });
  }
  return {
    place,
    bankId: at('id').slice(0, BANK_NAME) || null,
    bookedOn,
    amount,
    payer: at('payer').slice(0, BANK_NAME),
    payerAccount: at('account').slice(0, BANK_NAME),
    text: at('text').replace(/\s+/g, ' ').slice(0, BANK_TEXT),
  };
}

function readDay(typed: string, dayFirst: boolean): LocalDate | undefined {
  const iso = /^(\d{4})-?(\d{2})-?(\d{2})(\D.*)?$/.exec(typed);
  const other = /^(\d{1,2})([./-])(\d{1,2})\2(\d{4})(\D.*)?$/.exec(typed);
  const [day, month] = other && other[2] === '/' && !dayFirst ? [other[3]!, other[1]!] : [other?.[1], other?.[3]];
  const plain = iso ? `${iso[1]}-${iso[2]}-${iso[3]}` : other ? `${other[4]}-${month!.padStart(2, '0')}-${day!.padStart(2, '0')}` : '';
  try {
    return parseLocalDate(plain);
  } catch {
    return undefined;
  }
}

function inOrOut(came: string, went: string, currency: Currency): Money | undefined {
  const [into, out] = [came ? readDecimal(came, currency) : money(0, currency), went ? readDecimal(went, currency) : money(0, currency)];
  if (!into || !out || (!came && !went)) return undefined;
  return money(into.minor - Math.abs(out.minor), currency);
}

/**
 * Reads an amount as banks write it: 1,250.50, 1.250,50, 1250, -12.00, 12.00-, (12.00). A mark with as many digits after
 * it as the currency has decimals is the decimal mark, others part thousands.
 */
export function readDecimal(typed: string, currency: Currency): Money | undefined {
  const bare = typed.replace(/[\s' €£$¥]|[A-Z]{3}/g, '').replace('−', '-');
  const negative = /^-|-$|^\(.*\)$/.test(bare);
  const digits = bare.replace(/^[-+(]|[-)]$/g, '');
  const decimals = CURRENCY_DECIMALS[currency];
  const mark = decimals ? new RegExp(`^([\\d.,]*\\d)[.,](\\d{1,${decimals}})$`).exec(digits) : null;
  // Where it is both, such as 1,250 in a currency of three decimals, the mark that is there once is the decimal one.
  const [whole, part] = mark ? [mark[1]!, mark[2]!] : [digits, ''];
  if (!/^\d{1,3}([.,]\d{3})*$|^\d+$/.test(whole)) return undefined;
  const read = parseMoney(`${whole.replace(/[.,]/g, '')}${part && `.${part}`}`, currency);
  return read && money(negative ? -read.minor : read.minor, currency);
}
