import { isRefusal, type LocalDate, type Outcome, readDate, refuse } from '../../ground';

/** Somebody or something as the page knows it. */
export interface PastedUnit {
  readonly id: string;
  readonly name: string;
  /** The mail address of a person, the name of an asset. */
  readonly also: string;
}
export interface PastedLine {
  readonly id: string;
  readonly name: string;
}

/** A row of a spreadsheet as it was understood. */
export interface PastedSeat {
  /** Counted from 1. */
  readonly row: number;
  readonly unitId: string;
  readonly lineId: string;
  readonly startsOn: LocalDate;
  readonly lastDay: LocalDate | null;
}
export interface NotUnderstood {
  readonly row: number;
  readonly given: string;
  readonly why: string;
}
export interface PastedSeats {
  readonly seats: readonly PastedSeat[];
  readonly wrong: readonly NotUnderstood[];
}

/** The most rows that are read of what was pasted. */
export const MOST_PASTED = 2000;

/**
 * Reads rows of a spreadsheet: who (name, mail address or number), the line where there are several, the first day where it is
 * not today's, the last day if any; cells parted by tabs or semicolons. A row that is not understood is named with the reason.
 */
export function pasteSeats(
  text: string,
  { units, lines, today }: { readonly units: readonly PastedUnit[]; readonly lines: readonly PastedLine[]; readonly today: LocalDate },
): PastedSeats {
  const byName = new Map<string, PastedUnit[]>();
  for (const unit of units)
    for (const key of new Set([plain(unit.name), plain(unit.also)])) if (key) byName.set(key, [...(byName.get(key) ?? []), unit]);
  const seats: PastedSeat[] = [];
  const wrong: NotUnderstood[] = [];
  for (const [n, given] of text.split(/\r\n|\r|\n/).entries()) {
    const row = n + 1;
    if (!given.trim()) continue;
    if (seats.length + wrong.length >= MOST_PASTED) {
      wrong.push({ row, given: given.slice(0, SHOWN), why: `only ${MOST_PASTED} rows are read at a time: paste the rest after them` });
      break;
    }
    const seat = readRow(given.split(given.includes('\t') ? '\t' : ';'), { byName, lines, today });
    if (isRefusal(seat)) wrong.push({ row, given: given.slice(0, SHOWN), why: seat.detail });
    else seats.push({ row, ...seat });
  }
  return { seats, wrong };
}
const SHOWN = 120;

interface Known {
  readonly byName: ReadonlyMap<string, readonly PastedUnit[]>;
  readonly lines: readonly PastedLine[];
  readonly today: LocalDate;
}

function readRow(cells: readonly string[], { byName, lines, today }: Known): Outcome<Omit<PastedSeat, 'row'>> {
  const [who = '', ...rest] = cells.map((c) => c.trim());
  const found = byName.get(plain(who)) ?? [];
  if (found.length !== 1)
    return refuse('invalid', found.length ? `several are called ${who}` : `nobody here is called ${who || 'nothing'}`);
  const named = lines.find((l) => plain(l.name) === plain(rest[0] ?? ''));
  if (!named && lines.length !== 1) return refuse('invalid', `name the line: ${lines.map((l) => l.name).join(', ')}`);
  const [first = '', last = ''] = named ? rest.slice(1) : rest;
  const startsOn = first ? readDate(first, today) : today;
  const lastDay = last ? readDate(last, today) : null;
  if (startsOn === undefined) return refuse('invalid', `${first} is no day`);
  if (lastDay === undefined) return refuse('invalid', `${last} is no day`);
  if (lastDay !== null && lastDay < startsOn) return refuse('invalid', `the last day ${lastDay} is before the first ${startsOn}`);
  return { unitId: found[0]!.id, lineId: (named ?? lines[0]!).id, startsOn, lastDay };
}

const plain = (text: string) => text.trim().toLowerCase();
