import { type DecimalText, isDecimalText, isRefusal, type LocalDate, type Outcome, readDate, refuse } from '../../ground';
import { MOST_READINGS } from './readings-wire';

/** A row of a file as it was understood. */
export interface PastedReading {
  readonly on: LocalDate;
  readonly quantity: DecimalText;
  readonly key: string | null;
}
export interface PastedReadings {
  readonly readings: readonly PastedReading[];
  readonly wrong: readonly { readonly row: number; readonly given: string; readonly why: string }[];
}

const SHOWN = 80;
const MOST_KEY = 80;

/**
 * Reads rows of a file: the day, how much, and what names it where it comes from, if anything does; cells parted by tabs,
 * semicolons or commas. A first row of headings is passed over; any other that is not understood is named with the reason.
 */
export function pasteReadings(text: string, today: LocalDate): PastedReadings {
  const readings: PastedReading[] = [];
  const wrong: { row: number; given: string; why: string }[] = [];
  const rows = text.split(/\r\n|\r|\n/);
  for (const [n, given] of rows.entries()) {
    if (!given.trim() || (n === 0 && isHeading(given))) continue;
    if (readings.length + wrong.length >= MOST_READINGS.atOnce) {
      const why = `only ${MOST_READINGS.atOnce} rows are read at a time: paste the rest after them`;
      wrong.push({ row: n + 1, given: given.slice(0, SHOWN), why });
      break;
    }
    const read = readRow(cellsOf(given), today);
    if (isRefusal(read)) wrong.push({ row: n + 1, given: given.slice(0, SHOWN), why: read.detail });
    else readings.push(read);
  }
  return { readings, wrong };
}

function readRow(cells: readonly string[], today: LocalDate): Outcome<PastedReading> {
  const [day = '', much = '', key = '', ...more] = cells;
  if (more.length) return refuse('invalid', 'it has more than three cells: the day, how much, and what names it');
  const on = readDate(day, today);
  if (on === undefined) return refuse('invalid', `${day || 'nothing'} is no day`);
  const quantity = much.replace(',', '.');
  if (!isDecimalText(quantity) || Number(quantity) === 0) return refuse('invalid', `${much || 'nothing'} is no number with up to 4 places`);
  if (key.length > MOST_KEY) return refuse('invalid', `what names it has ${key.length} characters, at most ${MOST_KEY}`);
  return { on, quantity, key: key || null };
}

/** Cells, without the quotes that some programs set round them. */
function cellsOf(row: string): string[] {
  const parted = row.includes('\t') ? '\t' : row.includes(';') ? ';' : ',';
  return row.split(parted).map((cell) => cell.trim().replace(/^"(.*)"$/, '$1'));
}

function isHeading(row: string): boolean {
  return !/\d/.test(row);
}
