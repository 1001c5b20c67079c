import { type ChargeCause, draftCharges, taxOfCharge } from '@core/billing';
import { callOutFeesDue, type EntryEffect, isChargedByTime, type VisitEntry } from '@core/time';
import { dateOf, type Id } from '@core/ground';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import type { HouseBook } from '../../house';
import { callOut, feeStands, frozenAmong, rateEntries, warnOfAllowances, wayOf, wayThere } from '../../time';
import { lookAtCharges } from './look-at-charges';
import { storeCharges } from './store-charges';

/**
 * Makes the proposed charges of an entry anew, and of the other entries of its visit, whose call-out fee may
 * move. Saving entries in any order, or one back and forth, ends in the same charges.
 */
export async function chargeEntry(work: Work, book: HouseBook, entryId: Id<'time_entry'>): Promise<void> {
  // What was shared out of it was of what it was before; whoever shared it does so anew.
  await storeCharges(work, { shared_from: entryId }, []);
  const entry = (await work.tx('time_entry').where({ id: entryId }).first())!;
  // A correction charges its difference alone; only what a client pays for has visits.
  if (!entry.corrects && entry.client_id) await chargeVisit(work, book, { personId: entry.person_id, workId: entry.work_id });
  else await chargeEntries(work, book, [entryId, ...(await firstUnderContract(work, entry.corrects))]);
}

/** Under a contract a correction is rated with what it corrects. */
async function firstUnderContract(work: Work, corrects: Id<'time_entry'> | null): Promise<string[]> {
  if (!corrects) return [];
  return work.tx('time_entry').where({ id: corrects }).whereNotNull('contract_id').pluck('id');
}

/** Makes the proposed charges of what somebody recorded on work anew: an entry that left it may have had the fee. */
export async function chargeVisit(
  work: Work,
  book: HouseBook,
  { personId, workId }: { readonly personId: Id<'person'>; readonly workId: Id<'work'> },
): Promise<void> {
  await chargeEntries(
    work,
    book,
    await work.tx('time_entry').where({ person_id: personId, work_id: workId }).whereNotNull('client_id').pluck('id'),
  );
}

/** A stored entry, of what kind of work it is, and for whom. */
type EntryRow = Row<'time_entry'> &
  Row<'work_facts', 'ticket_kind' | 'subject'> & {
    readonly division_id: string;
    readonly person: string;
    readonly tax_exempt: boolean | null;
  };

/** All entries of the visits that some are of. */
async function inVisitsOf(work: Work, ids: readonly string[]): Promise<string[]> {
  const { zone } = work.book.house;
  return work
    .tx('time_entry as e')
    .whereExists(
      work
        .tx('time_entry as o')
        .whereIn('o.id', ids)
        .whereRaw('o.person_id = e.person_id and o.work_id = e.work_id')
        // A visit is of one local day.
        .whereRaw('(o.starts_at at time zone ?)::date = (e.starts_at at time zone ?)::date', [zone, zone])
        .select(work.tx.raw('1')),
    )
    .whereNotNull('e.client_id')
    .whereNull('e.corrects')
    .pluck('e.id');
}

/** Makes the proposed charges of entries anew, whole visits of them, and of what their contracts do differently then. */
export async function chargeEntries(work: Work, book: HouseBook, ids: readonly string[]): Promise<void> {
  const rows: EntryRow[] = await work
    .tx('time_entry as e')
    .join('work_facts as w', 'w.id', 'e.work_id')
    .join('person as p', 'p.id', 'e.person_id')
    .leftJoin('client as c', 'c.id', 'e.client_id')
    .whereIn('e.id', ids)
    .select(
      'e.*',
      'w.ticket_kind',
      'w.subject',
      work.tx.raw('coalesce(w.division_id, c.division_id) as division_id'),
      'p.name as person',
      'c.tax_exempt',
    );
  const counted = rows.filter((r) => r.removed_at === null && r.billable && r.client_id !== null && r.corrects === null);
  const fees = callOutFeesDue(
    counted.map((r): VisitEntry => ({
      id: r.id,
      personId: r.person_id,
      workId: r.work_id,
      on: dateOf(r.starts_at, book.house.zone),
      activity: book.activity(r.activity_id)!,
      startsAt: r.starts_at,
    })),
  );
  const frozen = await frozenAmong(work.tx, ids);
  const free = rows.filter((row) => !frozen.has(row.id));
  const { effects, others, drawn } = await rateEntries(work.tx, book, free);
  for (const [i, row] of free.entries()) await chargeRow(work, book, { row, does: { effect: effects[i]!, beginsVisit: fees.has(row.id) } });
  // What a contract does with one entry changes what it does with later ones.
  if (others.length) await chargeEntries(work, book, await inVisitsOf(work, others));
  await lookAtCharges(work, { entryIds: free.map((row) => row.id) });
  // What is recorded on a ticket says whether more was done than planned, on all of its charges.
  await lookAtCharges(work, { ticketIds: [...new Set(rows.flatMap((row) => row.ticket_id ?? []))] });
  await warnOfAllowances(work, drawn);
}

interface Does {
  readonly effect: EntryEffect;
  readonly beginsVisit: boolean;
}

async function chargeRow(work: Work, book: HouseBook, { row, does }: { readonly row: EntryRow; readonly does: Does }): Promise<void> {
  const isGone = row.removed_at !== null || row.client_id === null;
  const owner = {
    divisionId: row.division_id,
    clientId: row.client_id!,
    ticketId: row.ticket_id,
    personId: row.person_id,
    on: dateOf(row.starts_at, book.house.zone),
    tax: taxOfCharge(book.division(row.division_id).labourTax, row.tax_exempt ?? false),
  };
  const drafts = isGone ? [] : draftCharges(await causeOf(work, book, { row, does }));
  await storeCharges(
    work,
    { time_entry_id: row.id },
    drafts.map((draft) => ({ draft, owner })),
  );
}

async function causeOf(
  work: Work,
  book: HouseBook,
  { row, does: { effect, beginsVisit } }: { readonly row: EntryRow; readonly does: Does },
): Promise<ChargeCause> {
  const said = { person: row.person, text: row.note || row.subject, effect };
  if (row.corrects) return { is: 'correction', ...said };
  return {
    is: 'entry',
    ...said,
    activity: book.activity(row.activity_id)!.name,
    hasNote: Boolean(row.note || row.inside_note),
    minutes: row.minutes,
    longMinutes: book.house.time.longMinutes,
    currency: book.house.currency,
    callOut: beginsVisit && isCharged(row) && !effect.under?.coversFees ? await callOutOf(work, book, row) : null,
    way: isCharged(row) ? chargedWay(book, row) : null,
  };
}

async function callOutOf(work: Work, book: HouseBook, row: Row<'time_entry', 'activity_id' | 'starts_at' | 'work_id' | 'person_id'>) {
  const fee = callOut(book, row.activity_id);
  const on = dateOf(row.starts_at, book.house.zone);
  if (!fee || (await feeStands(work.tx, { workId: row.work_id, personId: row.person_id, on }))) return null;
  return { ...fee, price: book.activity(row.activity_id)!.callOutFee! };
}

function chargedWay(book: HouseBook, row: EntryRow) {
  const way = wayOf(row);
  const there = wayThere(book, way);
  return way && there ? { ...way, ...there } : null;
}

/** Whether time on this is charged at all, flat-fee jobs and internal tickets left out. */
function isCharged(row: EntryRow): boolean {
  return isChargedByTime({ billable: row.billable, clientId: row.client_id, ticketKind: row.ticket_kind });
}
