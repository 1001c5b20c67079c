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
import { BANK_NAME, BANK_TEXT, type BankLine, type BankStatement, checkBalance, MOST_BANK_LINES } from './bank-statement';

/** An element of an XML file as a parser gives it: text, or elements by name; attributes begin with "@". */
type Element = string | { readonly [name: string]: Element | readonly Element[] | undefined };

/**
 * Reads the statements of a camt.053 file, any version of it.
 * @param tree the parsed file; all text as it is, attributes under "@name"
 * @returns a refusal that names the place where it is none, or not whole. Source: ISO 20022, camt.053.001
 */
export function readCamt(tree: unknown): Outcome<readonly BankStatement[]> {
  const statements = all(one(one(tree as Element, 'Document'), 'BkToCstmrStmt'), 'Stmt');
  if (!statements.length) return wrong('the file', 'a camt.053 file with Document, BkToCstmrStmt and at least one Stmt');
  const read: BankStatement[] = [];
  for (const [n, statement] of statements.entries()) {
    const outcome = readStatement(statement, `statement ${n + 1}`);
    if (isRefusal(outcome)) return outcome;
    read.push(outcome);
  }
  return read.reduce((sum, s) => sum + s.lines.length, 0) > MOST_BANK_LINES
    ? refuse('invalid', `The file has more than ${MOST_BANK_LINES} lines.`, { file: `at most ${MOST_BANK_LINES} lines` })
    : read;
}

function readStatement(statement: Element, place: string): Outcome<BankStatement> {
  const account = one(statement, 'Acct');
  const code = text(account, 'Ccy') || text(one(statement, 'Bal'), 'Amt', '@Ccy') || text(one(statement, 'Ntry'), 'Amt', '@Ccy');
  if (!isCurrency(code)) return wrong(`${place}, currency "${code}"`, Object.keys(CURRENCY_DECIMALS).join(', '));
  const balance = (codes: readonly string[]) => {
    const found = all(statement, 'Bal').find((b) => codes.includes(text(b, 'Tp', 'CdOrPrtry', 'Cd')));
    return found ? signed(found, code) : null;
  };
  const opening = balance(['OPBD', 'PRCD']);
  const closing = balance(['CLBD']);
  const lines: BankLine[] = [];
  let announced = 0;
  for (const [n, entry] of all(statement, 'Ntry').entries()) {
    const status = text(entry, 'Sts', 'Cd') || text(entry, 'Sts');
    if (status && status !== 'BOOK') {
      announced++;
      continue;
    }
    const read = readEntry(entry, code, `${place}, entry ${n + 1}`);
    if (isRefusal(read)) return read;
    lines.push(...read);
  }
  const of = text(account, 'Id', 'IBAN') || text(account, 'Id', 'Othr', 'Id');
  const name = text(statement, 'ElctrncSeqNb') || text(statement, 'Id');
  return checkBalance({
    account: of.slice(0, BANK_NAME),
    currency: code,
    name: (name || place).slice(0, BANK_NAME),
    opening: opening ?? null,
    closing: closing ?? null,
    lines,
    announced,
  });
}

/** A collected entry is as many lines as it has transactions, where these say what each is and come to all of it. */
function readEntry(entry: Element, currency: Currency, place: string): Outcome<readonly BankLine[]> {
  const amount = signed(entry, currency);
  if (!amount)
    return wrong(`${place}, amount "${text(entry, 'Amt')}"`, `an amount of ${currency}, and whether it came (CRDT) or went (DBIT)`);
  const day = (text(entry, 'BookgDt', 'Dt') || text(entry, 'BookgDt', 'DtTm') || text(entry, 'ValDt', 'Dt')).slice(0, 10);
  const bookedOn = dateOrNothing(day);
  if (!bookedOn) return wrong(`${place}, day "${day}"`, 'a day such as 2026-11-24');
  const detail = all(entry, 'NtryDtls').flatMap((d) => all(d, 'TxDtls'));
  const parts = detail.map((d) => partOf(d, amount));
  const whole = parts.length > 1 && parts.reduce((sum, part) => sum + (part?.minor ?? Number.NaN), 0) === amount.minor;
  const entryId = text(entry, 'AcctSvcrRef') || text(entry, 'NtryRef');
  const said = text(entry, 'AddtlNtryInf');
  if (!whole) return [lineOf({ place, bankId: entryId, bookedOn, amount, detail: detail.length === 1 ? detail[0]! : '', said })];
  return detail.map((d, n) => {
    const own = text(d, 'Refs', 'AcctSvcrRef') || text(d, 'Refs', 'TxId');
    const bankId = own || (entryId && `${entryId}/${n + 1}`);
    return lineOf({ place: `${place}, transaction ${n + 1}`, bankId, bookedOn, amount: parts[n]!, detail: d, said: '' });
  });
}

interface Told extends Pick<BankLine, 'place' | 'bookedOn' | 'amount'> {
  readonly bankId: string;
  readonly detail: Element;
  readonly said: string;
}

function lineOf({ place, bankId, bookedOn, amount, detail, said }: Told): BankLine {
  const who = amount.minor < 0 ? 'Cdtr' : 'Dbtr';
  const party = one(one(detail, 'RltdPties'), who);
  const account = one(one(detail, 'RltdPties'), `${who}Acct`);
  const words = [
    ...all(one(detail, 'RmtInf'), 'Ustrd').map((w) => (typeof w === 'string' ? w : text(w, '#text'))),
    ...all(one(detail, 'RmtInf'), 'Strd').map((s) => text(s, 'CdtrRefInf', 'Ref')),
    text(detail, 'Refs', 'EndToEndId') === 'NOTPROVIDED' ? '' : text(detail, 'Refs', 'EndToEndId'),
    text(detail, 'AddtlTxInf'),
    said,
  ];
  return {
    place,
    bankId: bankId.slice(0, BANK_NAME) || null,
    bookedOn,
    amount,
    payer: (text(party, 'Nm') || text(party, 'Pty', 'Nm')).slice(0, BANK_NAME),
    payerAccount: (text(account, 'Id', 'IBAN') || text(account, 'Id', 'Othr', 'Id')).slice(0, BANK_NAME),
    text: words.filter(Boolean).join(' ').replace(/\s+/g, ' ').slice(0, BANK_TEXT),
  };
}

/** What one transaction of a collected entry comes to; signed as the entry is where it does not say. */
function partOf(detail: Element, entry: Money): Money | undefined {
  const own = typeof detail !== 'string' && detail['Amt'] !== undefined ? detail : one(one(detail, 'AmtDtls'), 'TxAmt');
  const found = readAmount(own, entry.currency);
  if (!found) return undefined;
  const went = text(detail, 'CdtDbtInd') ? text(detail, 'CdtDbtInd') === 'DBIT' : entry.minor < 0;
  return money(went ? -found.minor : found.minor, entry.currency);
}

function signed(of: Element, currency: Currency): Money | undefined {
  const amount = readAmount(of, currency);
  const way = text(of, 'CdtDbtInd');
  if (!amount || (way !== 'CRDT' && way !== 'DBIT')) return undefined;
  return money(way === 'DBIT' ? -amount.minor : amount.minor, currency);
}

function readAmount(of: Element, currency: Currency): Money | undefined {
  const code = text(of, 'Amt', '@Ccy');
  if (code && code !== currency) return undefined;
  const typed = text(of, 'Amt', '#text') || text(of, 'Amt');
  return /^\d+(\.\d+)?$/.test(typed) ? parseMoney(typed.replace(/(\.\d*?)0+$/, '$1').replace(/\.$/, ''), currency) : undefined;
}

function wrong(place: string, allowed: string): Outcome<never> {
  return refuse('invalid', `This cannot be read: ${place}. Allowed: ${allowed}.`, { file: allowed });
}

function isCurrency(code: string): code is Currency {
  return Object.hasOwn(CURRENCY_DECIMALS, code);
}

function dateOrNothing(day: string): LocalDate | undefined {
  try {
    return parseLocalDate(day);
  } catch {
    return undefined;
  }
}

function all(of: Element, name: string): readonly Element[] {
  if (typeof of === 'string') return [];
  const found = of?.[name];
  return found === undefined ? [] : Array.isArray(found) ? (found as readonly Element[]) : [found as Element];
}

function one(of: Element, name: string): Element {
  return all(of, name)[0] ?? '';
}

/** The text at a path; empty where there is none. */
function text(of: Element, ...path: readonly string[]): string {
  const found = path.reduce(one, of);
  if (typeof found === 'string') return found.trim();
  return typeof found['#text'] === 'string' ? found['#text'].trim() : '';
}
