import { type Currency, type LocalDate, type Money, type Outcome, formatMoney, money, refuse } from '../../ground';

/** The most bytes of a file of bank statements, and the most lines of all statements in it. */
export const MOST_BANK_BYTES = 5 * 1024 * 1024;
export const MOST_BANK_LINES = 20_000;
/** The most characters of what a bank says of a line; what is beyond is said to be cut by whoever reads. */
export const BANK_TEXT = 1000;
export const BANK_NAME = 200;

/** Money that came onto an account or left it. */
export interface BankLine {
  /** Where it stands in the file, for people: "line 12", "entry 3". */
  readonly place: string;
  /** How the bank calls it, where it does. */
  readonly bankId: string | null;
  readonly bookedOn: LocalDate;
  /** Below nothing where it left. */
  readonly amount: Money;
  /** Who paid, or was paid; empty where the bank does not say. */
  readonly payer: string;
  readonly payerAccount: string;
  /** What the payer wrote. */
  readonly text: string;
}

/** What a bank says of one account over some days. */
export interface BankStatement {
  /** As the bank writes it, such as an IBAN; empty where the file does not say. */
  readonly account: string;
  readonly currency: Currency;
  /** How the bank calls the statement. */
  readonly name: string;
  readonly opening: Money | null;
  readonly closing: Money | null;
  readonly lines: readonly BankLine[];
  /** Lines that the bank has announced and not booked: not read, as they may still change. */
  readonly announced: number;
}

/** A statement whose lines do not lead from its opening to its closing balance has lost some on the way: it is refused. */
export function checkBalance(statement: BankStatement): Outcome<BankStatement> {
  const { opening, closing, lines, currency, name } = statement;
  if (!opening || !closing) return statement;
  const reached = lines.reduce((sum, { amount }) => sum + amount.minor, opening.minor);
  if (reached === closing.minor) return statement;
  const [from, to, is] = [opening, closing, money(reached, currency)].map(formatMoney);
  return refuse('invalid', `Statement ${name} opens with ${from} and closes with ${to}, but its lines lead to ${is}: some are missing.`, {
    file: 'a statement with all of its lines',
  });
}

/**
 * What tells a line from all others of its account: the bank's own id, or what it says with the how-manieth of its kind
 * it is in its statement. A line that is read again, with another statement that overlaps, has the same.
 */
export function lineKeys({ account, lines }: BankStatement): readonly string[] {
  const seen = new Map<string, number>();
  return lines.map((line) => {
    const { bankId, bookedOn, amount, payer, text } = line;
    const plain = bankId
      ? ['id', account, bankId, amount.minor].join('|')
      : ['said', account, bookedOn, amount.minor, amount.currency, payer, text].join('|');
    const nth = (seen.get(plain) ?? 0) + 1;
    seen.set(plain, nth);
    return nth === 1 ? plain : `${plain}|${nth}`;
  });
}
