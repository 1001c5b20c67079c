import { isFrozen } from '../../time/time-entries/is-frozen';
import { isDeepStrictEqual } from 'node:util';
import { type ChargeMark, taxOfCharge } from '@core/billing';
import { callOutFeesDue, type EntryEffect, isChargedByTime, isLong, type VisitEntry } from '@core/time';
import { dateOf, majorOf } from '@core/ground';
import type { Columns } from '../../app/database';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house/house/house-book';
import { callOut, codeOfUnit, FEE_PART, feeStands, WAY_PART, wayThere } from '../../time/time-entries/added-amounts';
import { wayOf } from '../../time/time-entries/distance-terms';
import { effectsOfRows } from '../../time/time-entries/effects-of-rows';

/**
 * Makes the proposed charges of an entry anew, and of the other entries of its visit, whose call-out fee may
 * move. Saving entries in any order, or one back and forth, ends in the same charges.
 */
export async function chargeEntry(work: Work, book: HouseBook, entryId: string): Promise<void> {
  // What was shared out of it was of what it was before; whoever shared it does so anew.
  await work.tx('charge').where({ shared_from: entryId, state: 'proposed' }).delete();
  const entry = await work.tx('time_entry').where({ id: entryId }).first();
  // A correction charges its difference alone.
  if (entry.ticket_id && !entry.corrects) await chargeVisit(work, book, { personId: entry.person_id, ticketId: entry.ticket_id });
  else await chargeRows(work, book, [entryId]);
}

/** Makes the proposed charges of what somebody recorded on a ticket anew: an entry that left it may have had the fee. */
export async function chargeVisit(
  work: Work,
  book: HouseBook,
  { personId, ticketId }: { readonly personId: string; readonly ticketId: string },
): Promise<void> {
  await chargeRows(work, book, await work.tx('time_entry').where({ person_id: personId, ticket_id: ticketId }).pluck('id'));
}

async function chargeRows(work: Work, book: HouseBook, ids: readonly string[]): Promise<void> {
  const rows = await work
    .tx('time_entry as e')
    .leftJoin('ticket as t', 't.id', 'e.ticket_id')
    .join('person as p', 'p.id', 'e.person_id')
    .leftJoin('client as c', 'c.id', 'e.client_id')
    .whereIn('e.id', ids)
    .select('e.*', 't.kind', 't.subject', 't.division_id', 'p.name as person', 'c.tax_exempt');
  const counted = rows.filter((r) => r.removed_at === null && r.billable && r.client_id !== null && r.corrects === null);
  const fees = callOutFeesDue(
    counted.map((r): VisitEntry => ({
      id: r.id,
      personId: r.person_id,
      ticketId: r.ticket_id,
      on: dateOf(r.starts_at, book.house.zone),
      activity: book.activity(r.activity_id)!,
      startsAt: r.starts_at,
    })),
  );
  const effects = await effectsOfRows(work.tx, book, rows);
  for (const [i, row] of rows.entries())
    if (!(await isFrozen(work, row.id))) await replaceCharges(work, book, row, { effect: effects[i]!, withFee: fees.has(row.id) });
}

interface Does {
  readonly effect: EntryEffect;
  readonly withFee: boolean;
}

async function replaceCharges(work: Work, book: HouseBook, row: Columns, does: Does): Promise<void> {
  const stands: Columns[] = await work.tx('charge').where({ time_entry_id: row['id'], state: 'proposed' });
  const wanted = (await chargesOf(work, book, row, does)).map((c) => ({ ...commonOf(book, row), ...c, odd: c['odd'] ?? oddOf(book, row) }));
  // Only what changed is stored anew.
  const kept = stands.filter((c) => wanted.some((w) => isSame(c, w)));
  const fresh = wanted.filter((w) => !kept.some((c) => isSame(c, w)));
  const gone = stands.filter((c) => !kept.includes(c));
  if (gone.length)
    await work
      .tx('charge')
      .whereIn(
        'id',
        gone.map((c) => c['id']),
      )
      .delete();
  if (fresh.length) await work.tx('charge').insert(fresh);
  if (gone.length || fresh.length) await work.emit('charge', null);
}

async function chargesOf(work: Work, book: HouseBook, row: Columns, { effect, withFee }: Does): Promise<Columns[]> {
  if (row['removed_at'] !== null || row['client_id'] === null) return [];
  if (row['corrects']) return correctionCharges(row, effect);
  return [...labourCharges(book, row, effect), ...(await visitCharges(work, book, row, withFee)), ...distanceCharges(book, row)];
}

/** Whether a stored charge says just what is wanted; numbers by their value, since the store writes them with all places. */
function isSame(stored: Columns, wanted: Columns): boolean {
  return Object.entries(wanted).every(([name, value]) => {
    const there: unknown = stored[name];
    if (name === 'explanation') return isDeepStrictEqual(there, JSON.parse(value));
    if (FIGURES.includes(name)) return Number(there) === Number(value);
    return isDeepStrictEqual(there, value);
  });
}
const FIGURES = ['quantity', 'unit_price', 'net_minor', 'tax_percent'];

function commonOf(book: HouseBook, row: Columns) {
  const tax = taxOfCharge(book.house.labourTax, row['tax_exempt']);
  return {
    division_id: row['division_id'],
    client_id: row['client_id'],
    ticket_id: row['ticket_id'],
    time_entry_id: row['id'],
    person_id: row['person_id'],
    on_date: dateOf(row['starts_at'], book.house.zone),
    currency: book.house.currency,
    tax_category: tax.category,
    tax_percent: tax.percent,
  };
}

function oddOf(book: HouseBook, row: Columns): ChargeMark[] {
  return [
    ...(row['note'] || row['inside_note'] ? [] : (['no note'] as const)),
    ...(isLong(row['minutes'], book.house.longMinutes) ? (['long'] as const) : []),
  ];
}

function labourCharges(book: HouseBook, row: Columns, effect: EntryEffect): Columns[] {
  const noRate = effect.is === 'no rate';
  if (effect.is !== 'charged' && !noRate) return [];
  const parts = noRate ? [{ band: 'working hours', minutes: row['minutes'], rate: '0', net: { minor: 0 } }] : effect.parts;
  const odd: ChargeMark[] = [...oddOf(book, row), ...(noRate ? (['no rate'] as const) : [])];
  return parts.map((part, i) => ({
    kind: 'labour',
    part: i,
    odd,
    description: `${row['person']}, ${book.activity(row['activity_id'])!.name}, ${part.band}: ${row['note'] ?? row['subject']}`.slice(
      0,
      500,
    ),
    quantity: part.minutes,
    unit: 'MIN',
    unit_price: part.rate,
    net_minor: part.net.minor,
    explanation: JSON.stringify(effect.why),
  }));
}

/** A price is never below nothing; what is given back has a quantity below nothing. Source: EN 16931, BR-27. */
function correctionCharges(row: Columns, { amount, why }: EntryEffect): Columns[] {
  if (!amount || amount.minor === 0) return [];
  return [
    {
      kind: 'labour',
      part: 0,
      odd: ['correction'] satisfies ChargeMark[],
      description: `Correction, ${row['person']}: ${row['note'] ?? row['subject']}`.slice(0, 500),
      quantity: Math.sign(amount.minor),
      unit: 'C62',
      unit_price: majorOf({ ...amount, minor: Math.abs(amount.minor) }).toFixed(),
      net_minor: amount.minor,
      explanation: JSON.stringify(why),
    },
  ];
}

/** The call-out fee of the visit that an entry begins. */
async function visitCharges(work: Work, book: HouseBook, row: Columns, withFee: boolean): Promise<Columns[]> {
  const fee = callOut(book, row['activity_id']);
  if (!withFee || !fee || !isCharged(row)) return [];
  const on = dateOf(row['starts_at'], book.house.zone);
  if (await feeStands(work.tx, { ticketId: row['ticket_id'], personId: row['person_id'], on })) return [];
  return [
    {
      kind: 'fee',
      part: FEE_PART,
      description: `Call-out, ${row['person']}`,
      quantity: 1,
      unit: 'C62',
      unit_price: book.activity(row['activity_id'])!.callOutFee,
      net_minor: fee.net.minor,
      explanation: JSON.stringify(fee.why),
    },
  ];
}

/** The way there, at its rate for one unit of it. */
function distanceCharges(book: HouseBook, row: Columns): Columns[] {
  const way = wayOf(row);
  const there = wayThere(book, way);
  if (!way || !there || !isCharged(row)) return [];
  const { distance, unit, rate } = way;
  return [
    {
      kind: 'expense',
      part: WAY_PART,
      description: `Travel, ${row['person']}, ${distance} ${unit}`,
      quantity: distance,
      unit: codeOfUnit(unit),
      unit_price: rate,
      net_minor: there.net.minor,
      explanation: JSON.stringify(there.why),
    },
  ];
}

/** Whether time on this is charged at all, flat-fee jobs and internal tickets left out. */
function isCharged(row: Columns): boolean {
  return isChargedByTime({ billable: row['billable'], clientId: row['client_id'], ticketKind: row['kind'] });
}
