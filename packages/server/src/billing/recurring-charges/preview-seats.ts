import { type SeatsPreviewWire, sayPeriod } from '@core/billing';
import { nextDueOn, type SeatOfLine, type SeatsChangeWire, unitsAfter } from '@core/contracts';
import { type Id, type LocalDate, money, type Outcome, parseLocalDate, plusDays, sumMoney } from '@core/ground';
import type { Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { readLines, readSeats, type StoredLine } from '../../contracts';
import type { HouseBook } from '../../house';
import { type DueLine, dueOfLines } from './due-of-contract';

/** What a change of seats does to the next invoice of the contracts that it touches; nothing is stored. */
export async function previewSeats(
  db: Db,
  book: HouseBook,
  { clientId, change, today }: { readonly clientId: Id<'client'>; readonly change: SeatsChangeWire; readonly today: LocalDate },
): Promise<Outcome<SeatsPreviewWire>> {
  const contracts: Row<'contract', 'id'>[] = await db('contract').where({ client_id: clientId }).whereNotNull('agreed_at').select('id');
  const lines = await readLines(
    db,
    contracts.map((c) => c.id),
  );
  const seats = (
    await readSeats(db, (q) =>
      q.whereIn(
        's.line_id',
        lines.map((l) => l.id),
      ),
    )
  ).map((s): SeatOfLine => ({
    seatId: s.id,
    lineId: s.line_id,
    of: (s.contact_id ?? s.asset_id)!,
    name: s.name,
    from: s.starts_on,
    to: s.ends_on,
  }));
  const named = await readNames(
    db,
    change.put.map((p) => p.unitId),
  );
  const wanted = {
    put: change.put.map((p) => ({
      lineId: p.lineId,
      of: p.unitId,
      name: named.get(p.unitId) ?? '',
      from: parseLocalDate(p.startsOn),
      to: firstWithout(p.lastDay),
    })),
    end: new Map(change.end.map((e) => [e.seatId as string, firstWithout(e.lastDay)])),
    takeOff: new Set<string>(change.takeOff),
  };
  const touched = new Set<string>([
    ...change.put.map((p) => p.lineId),
    ...seats.filter((s) => wanted.end.has(s.seatId) || wanted.takeOff.has(s.seatId)).map((s) => s.lineId),
  ]);
  const mine = lines.filter((l) => touched.has(l.id));
  const dates = mine.map((l) => nextDueOn(l, today)).sort();
  const on = dates[0] ?? today;
  const after = mine.map((l): StoredLine => ({ ...l, units: unitsAfter(l.id, seats, wanted) }));
  const [before, then] = [await dueOfLines(db, book, { lines: mine, at: on }), await dueOfLines(db, book, { lines: after, at: on })];
  const { currency } = book.house;
  const total = (all: readonly DueLine[]) =>
    sumMoney(
      all.flatMap((d) => d.due.map((p) => p.amount)),
      currency,
    );
  return { on, before: total(before), after: total(then), differences: differences(before, then, currency) };
}

/** The periods of lines for which something else is due, each with what was and what will be. */
function differences(
  before: readonly DueLine[],
  after: readonly DueLine[],
  currency: HouseBook['house']['currency'],
): SeatsPreviewWire['differences'] {
  return after.flatMap(({ line, due }, n) => {
    const was = before[n]!.due;
    const starts = new Set([...was, ...due].map((d) => d.period.from));
    return [...starts].sort().flatMap((from) => {
      const [a, b] = [was.find((d) => d.period.from === from), due.find((d) => d.period.from === from)];
      const none = money(0, currency);
      const [one, other] = [a?.amount ?? none, b?.amount ?? none];
      return one.minor === other.minor ? [] : [{ line: line.name, period: sayPeriod((a ?? b)!.period), before: one, after: other }];
    });
  });
}

async function readNames(db: Db, unitIds: readonly string[]): Promise<ReadonlyMap<string, string>> {
  if (!unitIds.length) return new Map();
  const rows: { id: string; name: string }[] = [
    ...(await db('contact').whereIn('id', unitIds).select('id', 'name')),
    ...(await db('asset').whereIn('id', unitIds).select('id', 'number as name')),
  ];
  return new Map(rows.map((r) => [r.id, r.name]));
}

const firstWithout = (lastDay: string | null): LocalDate | null => (lastDay === null ? null : plusDays(parseLocalDate(lastDay), 1));
