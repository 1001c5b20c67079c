import { chargeAmount } from '@core/billing';
import { type AddedAmount, callOutFeesDue, type DistanceUnit, isChargedByTime, type VisitEntry, worthOfDistance } from '@core/time';
import { dateOf, formatMoney, type Id, type Instant, type LocalDate, money, plusDays, step } from '@core/ground';
import { at, type Db } from '../../app/database';
import type { Row } from '../../app/rows';
import { plainDecimal } from '../../app/plain-decimal';
import { type HouseBook, spanOfDates } from '../../house';
import { wayOf, type Way, type WayRow } from './distance-terms';

const UNIT_CODES: Readonly<Record<DistanceUnit, string>> = { km: 'KMT', miles: 'SMI' };

/** The call-out fee of an activity; undefined where it has none. */
export function callOut(book: HouseBook, activityId: Id<'activity'>): AddedAmount | undefined {
  const fee = book.activity(activityId)?.callOutFee ?? null;
  if (fee === null) return undefined;
  const { net } = chargeAmount({ quantity: '1', unit: 'C62', unitPrice: fee, currency: book.house.currency });
  return { what: 'call-out', net, why: [step('first entry of a visit: call-out fee', formatMoney(net))] };
}

/** The way to a client, at its rate for one unit of it; undefined where it charges nothing. */
export function wayThere(book: HouseBook, way: Way | null): AddedAmount | undefined {
  if (!way || Number(way.rate) === 0) return undefined;
  const { distance, unit, rate } = way;
  const { net, explanation } = worthOfDistance(distance, rate, { unit, currency: book.house.currency });
  return { what: `${distance} ${unit}`, net, why: explanation };
}

/** What stored entries charge besides their time, by their ids. */
export async function readAddedAmounts(
  db: Db,
  entryIds: readonly Id<'time_entry'>[],
): Promise<ReadonlyMap<string, readonly AddedAmount[]>> {
  const rows: Row<'charge', 'time_entry_id' | 'cause' | 'quantity' | 'unit' | 'net_minor' | 'currency' | 'explanation'>[] = await db(
    'charge',
  )
    .whereIn('time_entry_id', entryIds)
    .whereIn('cause', ['call-out', 'distance'])
    .whereNot('state', 'withdrawn')
    .orderBy('cause')
    .select('time_entry_id', 'cause', 'quantity', 'unit', 'net_minor', 'currency', 'explanation');
  const found = new Map<string, AddedAmount[]>();
  for (const c of rows) {
    const unit = (Object.keys(UNIT_CODES) as DistanceUnit[]).find((u) => UNIT_CODES[u] === c.unit);
    const what = c.cause === 'call-out' ? 'call-out' : `${plainDecimal(c.quantity)} ${unit}`;
    const added = { what, net: money(Number(c.net_minor), c.currency), why: c.explanation };
    found.set(c.time_entry_id!, [...(found.get(c.time_entry_id!) ?? []), added]);
  }
  return found;
}

/** An entry as far as what it charges besides its time goes. */
export interface VisitFacts {
  /** Of an entry that is changed; undefined where it is new. */
  readonly id: Id<'time_entry'> | undefined;
  readonly personId: Id<'person'>;
  readonly workId: Id<'work'>;
  readonly clientId: Id<'client'> | null;
  readonly ticketKind: string | null;
  readonly activityId: Id<'activity'>;
  readonly billable: boolean;
  readonly startsAt: Instant;
  readonly way: Way | null;
}

/** An entry of a visit with its work's ticket kind; one that is not stored yet has no id. */
export type VisitRow = Row<'time_entry', 'person_id' | 'work_id' | 'client_id' | 'activity_id' | 'billable' | 'starts_at'> &
  Row<'work_facts', 'ticket_kind'> &
  WayRow & { readonly id: Id<'time_entry'> | undefined };

export function visitOf(row: VisitRow): VisitFacts {
  return {
    id: row.id,
    personId: row.person_id,
    workId: row.work_id,
    clientId: row.client_id,
    ticketKind: row.ticket_kind,
    activityId: row.activity_id,
    billable: row.billable,
    startsAt: row.starts_at,
    way: wayOf(row),
  };
}

/**
 * What an entry would charge besides its time, by the rules that charge it once it is stored.
 * @param others all other entries of its visit, those that are to be stored before it too
 */
export async function previewAddedAmounts(
  db: Db,
  book: HouseBook,
  { entry, others }: { readonly entry: VisitFacts; readonly others: readonly VisitFacts[] },
): Promise<AddedAmount[]> {
  if (!isChargedByTime(entry)) return [];
  const fee = callOut(book, entry.activityId);
  const due = fee && isFirst(book, entry, others) && !(await feeStands(db, visitOn(book, entry)));
  return [due ? fee : undefined, wayThere(book, entry.way)].filter((b) => b !== undefined);
}

function isFirst(book: HouseBook, entry: VisitFacts, others: readonly VisitFacts[]): boolean {
  // What is new has no place yet among what began in the same second; it comes after that, in its order.
  const known = [...others, entry].map((facts, n) => ({ facts, id: facts.id ?? `~${n}` }));
  const entries = known
    .filter(({ facts }) => isChargedByTime(facts))
    .map(({ facts, id }): VisitEntry => ({ ...facts, id, on: visitOn(book, facts).on, activity: book.activity(facts.activityId)! }));
  return callOutFeesDue(entries).has(known.at(-1)!.id);
}

/** All other stored entries of the visit that an entry belongs to. */
export async function readVisit(db: Db, book: HouseBook, entry: VisitFacts): Promise<VisitFacts[]> {
  const { on } = visitOn(book, entry);
  const span = spanOfDates(book, on, plusDays(on, 1));
  const rows: (Row<'time_entry'> & Row<'work_facts', 'ticket_kind'>)[] = await db('time_entry as e')
    .join('work_facts as w', 'w.id', 'e.work_id')
    .where({ 'e.person_id': entry.personId, 'e.work_id': entry.workId, 'e.activity_id': entry.activityId })
    .whereNull('e.removed_at')
    .whereNull('e.corrects')
    .where('e.starts_at', '>=', at(span.from))
    .where('e.starts_at', '<', at(span.to))
    .modify((q) => entry.id && void q.whereNot({ 'e.id': entry.id }))
    .select('e.*', 'w.ticket_kind');
  return rows.map(visitOf);
}

const visitOn = (book: HouseBook, { workId, personId, startsAt }: VisitFacts): Visit => ({
  workId,
  personId,
  on: dateOf(startsAt, book.house.zone),
});

interface Visit {
  readonly workId: Id<'work'>;
  readonly personId: Id<'person'>;
  readonly on: LocalDate;
}

/** Whether a decided entry of a visit carries its fee already. */
export async function feeStands(db: Db, { workId, personId, on }: Visit): Promise<boolean> {
  return Boolean(
    await db('charge as ch')
      .join('time_entry as e', 'e.id', 'ch.time_entry_id')
      .where({ 'e.work_id': workId, 'ch.person_id': personId, 'ch.on_date': on, 'ch.cause': 'call-out' })
      .whereIn('ch.state', ['approved', 'waived'])
      .first('ch.id'),
  );
}
