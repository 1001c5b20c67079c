import { parse } from 'csv-parse/sync';
import { XMLParser, XMLValidator } from 'fast-xml-parser';
import {
  type BankColumn,
  type BankStatement,
  type ChosenColumns,
  markOf,
  MOST_BANK_LINES,
  readBankRows,
  readCamt,
  type ReadRows,
} from '@core/billing';
import { isRefusal, type Outcome, refuse } from '@core/ground';

export type BankFileHow = Omit<ReadRows, 'columns'> & { readonly columns: string | null };

const MOST_ROW = 100_000;
const MOST_DEPTH = 40;

/** Reads the bytes of a file of a bank; what it is shows in its first letter. For a worker: whatever it says was written outside. */
export function parseBankFile(bytes: Uint8Array, how: BankFileHow): Outcome<readonly BankStatement[]> {
  const text = decode(bytes);
  if (text.includes('\0'))
    return refuse('invalid', 'This is no text: statements come as camt.053 (XML) or CSV.', { file: 'camt.053 or CSV' });
  return text.trimStart().startsWith('<') ? parseCamt(text) : parseCsv(text, how);
}

/** As an XML file declares it, else UTF-8 if it is that, else what spreadsheets write in western Europe. */
function decode(bytes: Uint8Array): string {
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 200));
  const declared = /^[^<]*<\?xml[^>]*encoding=["']([\w-]+)["']/.exec(head)?.[1];
  for (const label of [declared ?? 'utf-8', 'utf-8'])
    try {
      return new TextDecoder(label, { fatal: true }).decode(bytes);
    } catch {
      // The next is tried.
    }
  return new TextDecoder('windows-1252').decode(bytes);
}

function parseCamt(text: string): Outcome<readonly BankStatement[]> {
  // A statement has none; what names things of its own could grow without end.
  if (/<!(DOCTYPE|ENTITY)/i.test(text))
    return refuse('invalid', 'The file has a DOCTYPE, and statements have none.', { file: 'camt.053 without DOCTYPE' });
  if (isTooDeep(text))
    return refuse('invalid', `The file is nested deeper than ${MOST_DEPTH} levels.`, { file: `at most ${MOST_DEPTH} levels` });
  const checked = XMLValidator.validate(text);
  if (checked !== true)
    return refuse('invalid', `This is no XML: line ${checked.err.line}, column ${checked.err.col}: ${checked.err.msg}`, {
      file: 'well-formed XML',
    });
  const parser = new XMLParser({
    ignoreAttributes: false,
    attributeNamePrefix: '@',
    removeNSPrefix: true,
    parseTagValue: false,
    parseAttributeValue: false,
    ignoreDeclaration: true,
    // Text that is empty stays text.
    alwaysCreateTextNode: false,
  });
  return readCamt(parser.parse(text));
}

function isTooDeep(text: string): boolean {
  let depth = 0;
  for (const [tag] of text.matchAll(/<\/?[A-Za-z][^<>]*>/g)) {
    if (tag.startsWith('</')) depth--;
    else if (!tag.endsWith('/>')) depth++;
    if (depth > MOST_DEPTH) return true;
  }
  return false;
}

function parseCsv(text: string, { columns, ...how }: BankFileHow): Outcome<readonly BankStatement[]> {
  let rows: string[][];
  try {
    rows = parse(text, {
      delimiter: markOf(text),
      bom: true,
      relaxColumnCount: true,
      skipEmptyLines: true,
      maxRecordSize: MOST_ROW,
      toLine: MOST_BANK_LINES * 2,
    });
  } catch (fault) {
    return refuse('invalid', `This cannot be read as CSV: ${fault instanceof Error ? fault.message : 'a row is broken'}`, {
      file: 'CSV of which every quote is closed',
    });
  }
  const read = readBankRows(rows, { ...how, columns: columns ? chosen(columns) : null });
  return isRefusal(read) ? read : [read];
}

/** "date:0,amount:3" */
function chosen(columns: string): ChosenColumns {
  return Object.fromEntries(columns.split(',').map((pair) => [pair.split(':')[0] as BankColumn, Number(pair.split(':')[1])]));
}
