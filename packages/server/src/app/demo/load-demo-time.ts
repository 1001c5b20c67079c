import type { Row } from '../../app/rows';
import { byPerson } from '../actor';
import type { Knex } from 'knex';
import { worthOfExpense } from '@core/time';
import { dateOf, type Instant, instantAt, type LocalDate, money, plusDays, plusSeconds, weekdayOf, type Zone } from '@core/ground';
import { chargeEntry } from '../../billing/charges/charge-entry';
import { wayColumns, wayTyped } from '../../time/time-entries/distance-terms';
import { chargeExpense } from '../../billing/charges/charge-expense';
import type { HouseBook } from '../../house/house/house-book';
import { at } from '../database';
import { makeWork } from '../work';
import type { Work } from '../work';
import { DemoRandom } from './demo-random';
import { type DaysToFill, loadDemoDays } from './load-demo-days';
import { loadPastBookings } from './load-demo-dispatch';
import { rateUnrated } from '../../time/time-entries/stored-effects';

const WEEKS_OF_MEETINGS = 8;
const EXPENSE_DAYS = 45;
/** Whose last week still waits for approval on the Tuesday. */
const WAITING = ['Deepa Raghunathan', 'Ines Valadares', 'Yusuf Demirel', 'Marisol Quintero'];
const CATEGORIES = [
  {
    name: 'Parking and tolls',
    tax_percent: '23',
    billable: true,
    markup_percent: '0',
    notes: ['quay car park', 'bridge toll, both ways'],
    from: 250,
    to: 1400,
  },
  {
    name: 'Small parts',
    tax_percent: '23',
    billable: true,
    markup_percent: '15',
    notes: ['patch leads', 'wall bracket and screws', 'label tape'],
    from: 480,
    to: 5200,
  },
  {
    name: 'Ferry and rail',
    tax_percent: '0',
    billable: true,
    markup_percent: '0',
    notes: ['return to the terminal', 'day return'],
    from: 900,
    to: 3800,
  },
  {
    name: 'Meals on the road',
    tax_percent: '13.5',
    billable: false,
    markup_percent: '0',
    notes: ['lunch between two sites'],
    from: 850,
    to: 1900,
  },
] as const;

/** Who has said that last week is complete. */
const COMPLETE = ['Fionn Hartigan', 'Odalys Figueroa', 'Piotr Zaleski', 'Hanna Lindqvist'];

/** What was recorded besides tickets, what was spent, and what a manager approved in the weeks before the story. */
export async function loadDemoTime(tx: Knex.Transaction, book: HouseBook, past: DaysToFill): Promise<void> {
  const { story, zone } = past;
  const today = dateOf(story, zone);
  const monday = plusDays(today, 1 - weekdayOf(today));
  const random = new DemoRandom(53);
  await loadMeetings(tx, { story, monday, zone });
  await loadDemoDays(tx, book, past);
  await loadPastBookings(tx, story, zone);
  await loadDistances(tx, book, { story, monday, zone, random });
  await loadExpenses(tx, book, { story, today, zone, random });
  await loadOddities(tx, { story, monday, zone });
  await rateUnrated(tx, book);
  await loadApprovals(tx, { story, monday, zone });
  const complete: string[] = await tx('person').whereIn('name', COMPLETE).pluck('id');
  await tx('time_complete').insert(complete.map((person_id) => ({ person_id, up_to: plusDays(monday, -1), declared_at: at(story) })));
}

interface Weeks {
  readonly story: Instant;
  readonly monday: LocalDate;
  readonly zone: Zone;
}

/** The team meets on Mondays at eight, save who was at work for a client. */
async function loadMeetings(tx: Knex.Transaction, { monday, zone }: Weeks): Promise<void> {
  const [meeting] = await tx('internal_work')
    .insert([{ name: 'Team meeting' }, { name: 'Training' }, { name: 'Vans and stock' }, { name: 'Administration' }])
    .returning('id');
  const remote = (await tx('activity').where({ name: 'remote' }).first('id'))!;
  const people = await tx('person').where({ technician: true }).whereNotNull('grade_id').select('id', 'grade_id');
  for (let week = 0; week <= WEEKS_OF_MEETINGS; week++) {
    const [from, to] = [8 * 60, 8 * 60 + 30].map((m) => at(instantAt(plusDays(monday, -7 * week), m, zone))) as [string, string];
    const busy: string[] = await tx('time_entry')
      .where('starts_at', '<', to)
      .where('ends_at', '>', from)
      .whereNull('removed_at')
      .pluck('person_id');
    const there = people.filter((p) => !busy.includes(p.id));
    if (!there.length) continue;
    await tx('time_entry').insert(
      there.map((p) => ({
        person_id: p.id,
        grade_id: p.grade_id,
        work_id: meeting!.id,
        activity_id: remote.id,
        starts_at: from,
        ends_at: to,
        minutes: 30,
        note: 'what the week brings',
        billable: false,
        reason: 'internal',
      })),
    );
  }
}

const quiet = (
  tx: Knex.Transaction,
  book: HouseBook,
  { story, personId }: { readonly story: Instant; readonly personId: string },
): Work => ({
  ...makeWork({ tx, now: story, actor: byPerson({ id: personId, name: '', role: 'technician' }, 'web'), book }),
  emit: async () => undefined,
  enqueue: async () => undefined,
});

/** How far last week's visits were. */
async function loadDistances(
  tx: Knex.Transaction,
  book: HouseBook,
  { story, monday, zone, random }: Weeks & { random: DemoRandom },
): Promise<void> {
  const visits: Row<'time_entry', 'id' | 'person_id'>[] = await tx('time_entry as e')
    .join('activity as a', 'a.id', 'e.activity_id')
    .where({ 'a.visit': true })
    .where('e.starts_at', '>=', at(instantAt(plusDays(monday, -7), 0, zone)))
    .where('e.starts_at', '<', at(instantAt(monday, 0, zone)))
    .orderBy(['e.starts_at', 'e.person_id'])
    .select('e.id', 'e.person_id');
  for (const visit of visits) {
    await tx('time_entry')
      .where({ id: visit.id })
      .update(wayColumns(wayTyped(book, `${random.whole(4, 61)}.${random.pick(['0', '5'])}`)));
    await chargeEntry(quiet(tx, book, { story, personId: visit.person_id }), book, visit.id);
  }
}

async function loadExpenses(
  tx: Knex.Transaction,
  book: HouseBook,
  { story, today, zone, random }: { story: Instant; today: LocalDate; zone: Zone; random: DemoRandom },
): Promise<void> {
  const kept = await tx('expense_category')
    .insert(CATEGORIES.map(({ name, tax_percent, billable, markup_percent }) => ({ name, tax_percent, billable, markup_percent })))
    .returning(['id', 'name']);
  const visits: Row<'time_entry', 'person_id' | 'ticket_id' | 'client_id' | 'starts_at'>[] = await tx('time_entry as e')
    .join('activity as a', 'a.id', 'e.activity_id')
    .where({ 'a.visit': true })
    .whereNotNull('e.ticket_id')
    .where('e.starts_at', '>=', at(instantAt(plusDays(today, -EXPENSE_DAYS), 0, zone)))
    .orderBy(['e.starts_at', 'e.person_id'])
    .select('e.person_id', 'e.ticket_id', 'e.client_id', 'e.starts_at');
  for (const visit of visits) {
    if (!random.chance(60)) continue;
    const category = random.pick(CATEGORIES);
    const paid = money(random.whole(category.from, category.to), book.house.currency);
    const { gross, net } = worthOfExpense({ paid, exchange: null, taxPercent: category.tax_percent }, book.house.currency);
    const [expense] = await tx('expense')
      .insert({
        person_id: visit.person_id,
        work_id: visit.ticket_id,
        client_id: visit.client_id,
        day: dateOf(visit.starts_at, zone),
        category_id: kept.find((k) => k.name === category.name)!.id,
        paid_minor: paid.minor,
        currency: paid.currency,
        gross_minor: gross.minor,
        net_minor: net.minor,
        tax_percent: category.tax_percent,
        note: random.pick(category.notes),
        billable: category.billable,
        markup_percent: category.markup_percent,
        own_money: random.chance(70),
      })
      .returning('id');
    await chargeExpense(quiet(tx, book, { story, personId: visit.person_id }), expense!.id);
  }
}

/** What makes a manager look twice at last week: no note, an evening, time that lies over other time. */
async function loadOddities(tx: Knex.Transaction, { monday, zone }: Weeks): Promise<void> {
  const one = (name: string, nth: number) =>
    tx('time_entry as e')
      .join('person as p', 'p.id', 'e.person_id')
      .where({ 'p.name': name, 'e.billable': false })
      .whereNotNull('e.ticket_id')
      .where('e.starts_at', '>=', at(instantAt(plusDays(monday, -7), 0, zone)))
      .where('e.starts_at', '<', at(instantAt(plusDays(monday, -3), 0, zone)))
      .orderBy(['e.starts_at', 'e.id'])
      .offset(nth)
      .first('e.*');
  const [silent, evening, over] = [await one('Deepa Raghunathan', 4), await one('Deepa Raghunathan', 9), await one('Marisol Quintero', 5)];
  // A past of a few days has no last week to look at twice.
  if (!silent || !evening || !over) return;
  await tx('time_entry').where({ id: silent.id }).update({ note: null });
  const late = instantAt(dateOf(evening.starts_at, zone), 19 * 60 + 10, zone);
  const { id: _, booking_id: __, ticket_id: ___, ...same } = evening;
  await tx('time_entry').insert({
    ...same,
    starts_at: at(late),
    ends_at: at(plusSeconds(late, 50 * 60)),
    minutes: 50,
    note: 'Restart after hours, as agreed with the office manager.',
  });
  await tx('time_entry')
    .where({ id: over.id })
    .update({ ends_at: at(plusSeconds(over.ends_at, 25 * 60)), minutes: over.minutes + 25 });
  await tx('entry_effect').where({ time_entry_id: over.id }).delete();
}

/** All before last week is approved, and of last week what does not wait; one entry went back with a question. */
async function loadApprovals(tx: Knex.Transaction, { story, monday, zone }: Weeks): Promise<void> {
  const aoife = (await tx('person').where({ name: 'Aoife Brannigan' }).first('id', 'name'))!;
  const by = { who: 'person', who_id: aoife.id, who_name: aoife.name };
  const waiting: string[] = await tx('person').whereIn('name', WAITING).pluck('id');
  const [week, last] = [instantAt(monday, 0, zone), instantAt(plusDays(monday, -7), 0, zone)];
  const entries = (q: Knex.QueryBuilder) =>
    void q
      .where('starts_at', '<', at(week))
      .whereNull('removed_at')
      .whereNot({ person_id: aoife.id })
      .where((w) => void w.where('starts_at', '<', at(last)).orWhereNotIn('person_id', waiting));
  const expenses = (q: Knex.QueryBuilder) =>
    void q.where('day', '<', monday).where((w) => void w.where('day', '<', plusDays(monday, -7)).orWhereNotIn('person_id', waiting));
  for (const [table, column, narrow] of [
    ['time_entry', 'entry_id', entries],
    ['expense', 'expense_id', expenses],
  ] as const) {
    const ids: string[] = await tx(table).modify(narrow).orderBy('id').pluck('id');
    await tx(table).whereIn('id', ids).update({ approval: 'approved' });
    await tx.batchInsert(
      'time_decision',
      ids.map((id) => ({ [column]: id, at: at(story), ...by, decision: 'approve' })),
      500,
    );
  }
  const ines = (await tx('person').where({ name: 'Ines Valadares' }).first('id'))!;
  const asked = await tx('time_entry')
    .where({ person_id: ines.id })
    .where('starts_at', '>=', at(last))
    .where('starts_at', '<', at(week))
    .orderBy('minutes', 'desc')
    .first('id');
  if (!asked) return;
  await tx('time_entry').where({ id: asked.id }).update({ approval: 'returned' });
  await tx('time_decision').insert({
    entry_id: asked.id,
    at: at(story),
    ...by,
    decision: 'return',
    remark: 'Which terminal was this? The note does not say.',
  });
}
