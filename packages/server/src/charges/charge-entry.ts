import { chargeAmount, taxOfCharge } from '@core/charges';
import { callOutFeesDue, type VisitEntry } from '@core/time-entries';
import { dateOf, formatMinutes, type LocalDate } from '@core/time';
import { step } from '@core/explanation';
import type { Work } from '../app/work';
import type { HouseBook } from '../house/house-book';
import { effectOfEntry } from '../time-entries/recorded-entry';

const NO_NOTE = 'no note';
const NO_RATE = 'no rate';
const LONG = 'over 8 hours';
const LONG_MINUTES = 480;

/** Whether a decision stands on what an entry charges, so that it may not change. */
export async function isFrozen(work: Work, entryId: string): Promise<boolean> {
  return Boolean(
    await work
      .tx('charge')
      .where((q) => void q.where({ time_entry_id: entryId }).orWhere({ shared_from: entryId }))
      .whereNot('state', 'proposed')
      .first('id'),
  );
}

/**
 * Makes the proposed charges of an entry anew, and of the other entries of its visit, whose call-out fee may
 * move. Saving entries in any order, or one back and forth, ends in the same charges.
 */
export async function chargeEntry(work: Work, book: HouseBook, entryId: string): Promise<void> {
  // What was shared out of it was of what it was before; whoever shared it does so anew.
  await work.tx('charge').where({ shared_from: entryId, state: 'proposed' }).delete();
  const entry = await work.tx('time_entry').where({ id: entryId }).first();
  const visit = entry.ticket_id
    ? await work.tx('time_entry').where({ person_id: entry.person_id, ticket_id: entry.ticket_id }).select('id')
    : [{ id: entryId }];
  const rows = await work
    .tx('time_entry as e')
    .leftJoin('ticket as t', 't.id', 'e.ticket_id')
    .join('person as p', 'p.id', 'e.person_id')
    .leftJoin('client as c', 'c.id', 'e.client_id')
    .whereIn(
      'e.id',
      visit.map((v) => v.id),
    )
    .select('e.*', 't.kind', 't.subject', 't.division_id', 'p.name as person', 'c.tax_exempt');
  const counted = rows.filter((r) => r.removed_at === null && r.billable && r.client_id !== null);
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
  for (const row of rows) if (!(await isFrozen(work, row.id))) await replaceCharges(work, book, row, fees.has(row.id));
}

async function replaceCharges(work: Work, book: HouseBook, row: Record<string, never>, withFee: boolean): Promise<void> {
  const get = <T>(name: string) => row[name] as T;
  await work
    .tx('charge')
    .where({ time_entry_id: get('id'), state: 'proposed' })
    .delete();
  if (get('removed_at') !== null || get('client_id') === null) return;
  const effect = await effectOfEntry(work.tx, book, {
    from: get('starts_at'),
    to: get('ends_at'),
    minutes: get('minutes'),
    gradeId: get('grade_id'),
    activityId: get('activity_id'),
    billable: get('billable'),
    clientId: get('client_id'),
    ticketKind: get('kind'),
  });
  const noRate = effect.amount === null && effect.sentence.startsWith('no rate');
  if (effect.amount === null && !noRate) return;
  const activity = book.activity(get('activity_id'))!;
  const tax = taxOfCharge(book.house.labourTax, get('tax_exempt'));
  const odd = [
    ...(get<string | null>('note') ? [] : [NO_NOTE]),
    ...(noRate ? [NO_RATE] : []),
    ...(get<number>('minutes') > LONG_MINUTES ? [LONG] : []),
  ];
  const on: LocalDate = dateOf(get('starts_at'), book.house.zone);
  const common = {
    division_id: get('division_id'),
    client_id: get('client_id'),
    ticket_id: get('ticket_id'),
    time_entry_id: get('id'),
    person_id: get('person_id'),
    on_date: on,
    currency: book.house.currency,
    tax_category: tax.category,
    tax_percent: tax.percent,
    odd,
  };
  const parts = noRate ? [{ band: 'working hours', minutes: get<number>('minutes'), rate: '0', net: { minor: 0 } }] : effect.parts;
  const charges: Record<string, unknown>[] = parts.map((part, i) => ({
    ...common,
    kind: 'labour',
    part: i,
    description: `${get<string>('person')}, ${activity.name}, ${part.band}: ${get<string | null>('note') ?? get<string>('subject')}`.slice(
      0,
      500,
    ),
    quantity: part.minutes,
    unit: 'MIN',
    unit_price: part.rate,
    net_minor: part.net.minor,
    explanation: JSON.stringify(effect.why),
  }));
  if (withFee && activity.callOutFee !== null && !(await feeStands(work, row, on))) {
    const { net, explanation } = chargeAmount('1', 'C62', activity.callOutFee, book.house.currency);
    charges.push({
      ...common,
      kind: 'fee',
      part: 99,
      description: `Call-out, ${get<string>('person')}`,
      quantity: 1,
      unit: 'C62',
      unit_price: activity.callOutFee,
      net_minor: net.minor,
      explanation: JSON.stringify([
        step('first entry of a visit: call-out fee', activity.callOutFee),
        step('worked', formatMinutes(get('minutes'))),
        ...explanation,
      ]),
    });
  }
  if (charges.length) await work.tx('charge').insert(charges);
  await work.emit('charge', null);
}

/** Whether a decided entry of the same visit carries the fee already. */
async function feeStands(work: Work, row: Record<string, never>, on: LocalDate): Promise<boolean> {
  return Boolean(
    await work
      .tx('charge')
      .where({ ticket_id: row['ticket_id'], person_id: row['person_id'], on_date: on, kind: 'fee' })
      .whereNot('state', 'proposed')
      .first('id'),
  );
}
