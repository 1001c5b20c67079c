import { worthOfDistance, type ReimbursementWire } from '@core/time';
import { dateOf, formatMinutes, type LocalDate, money, type Outcome, plusDays, refuse, sumMoney } from '@core/ground';
import { at, type Db } from '../../app/database';
import type { Row } from '../../app/rows';
import type { Work } from '../../app/work';
import { type HouseBook, spanOfDates } from '../../house';
import { wayOf } from '../time-entries/distance-terms';
import { readExpenses } from './read-expenses';

/** What is to be paid back to people for dates, both included: approved expenses of own money, and distances. */
export async function readReimbursements(db: Db, book: HouseBook, { from, to }: { readonly from: LocalDate; readonly to: LocalDate }) {
  const names = new Map<string, string>((await db('person').select('id', 'name')).map((p) => [p.id, p.name]));
  const owners = new Map<string, string>(
    (await db('expense').whereBetween('day', [from, to]).select('id', 'person_id')).map((x) => [x.id, x.person_id]),
  );
  const expenses = await readExpenses(db, book, (q) =>
    q.where({ 'x.own_money': true, 'x.approval': 'approved' }).whereBetween('x.day', [from, to]),
  );
  const rows: ReimbursementWire[] = [
    ...expenses.map((x): ReimbursementWire => ({
      id: x.id,
      what: 'expense',
      personId: owners.get(x.id)!,
      person: names.get(owners.get(x.id)!)!,
      day: x.day,
      says: [x.category, x.note].filter(Boolean).join(': '),
      number: x.number,
      client: x.client,
      amount: x.gross,
      reimbursedOn: x.reimbursedOn,
    })),
    ...(await readDistances(db, book, { from, to })).map((e) => distanceWire(book, e)),
  ].sort((a, b) => a.person.localeCompare(b.person) || a.day.localeCompare(b.day) || a.id.localeCompare(b.id));
  const open = rows.filter((r) => !r.reimbursedOn).map((r) => money(r.amount.minor, r.amount.currency));
  return { rows, open: sumMoney(open, book.house.currency) };
}

/** An entry with a way, whose it is, and what for. */
type DistanceRow = Row<'time_entry'> & Row<'work_facts', 'number'> & { readonly person: string; readonly client: string | null };

function readDistances(
  db: Db,
  book: HouseBook,
  { from, to }: { readonly from: LocalDate; readonly to: LocalDate },
): Promise<DistanceRow[]> {
  const span = spanOfDates(book, from, plusDays(to, 1));
  return db('time_entry as e')
    .join('person as p', 'p.id', 'e.person_id')
    .join('work_facts as w', 'w.id', 'e.work_id')
    .leftJoin('client as c', 'c.id', 'e.client_id')
    .where({ 'e.approval': 'approved' })
    .whereNotNull('e.distance')
    .whereNull('e.removed_at')
    .where('e.starts_at', '>=', at(span.from))
    .where('e.starts_at', '<', at(span.to))
    .select('e.*', 'p.name as person', 'w.number', 'c.name as client') as never;
}

function distanceWire(book: HouseBook, e: DistanceRow): ReimbursementWire {
  const { distance, unit, paidBack } = wayOf(e)!;
  return {
    id: e.id,
    what: 'distance',
    personId: e.person_id,
    person: e.person,
    day: dateOf(e.starts_at, book.house.zone),
    says: `${distance} ${unit} at ${paidBack}, ${formatMinutes(e.minutes)}`,
    number: e.number,
    client: e.client,
    amount: worthOfDistance(distance, paidBack, { unit, currency: book.house.currency }).net,
    reimbursedOn: e.reimbursed_on,
  };
}

/** Marks what was paid back, each once; all that is named or nothing. */
export async function payBack(
  work: Work,
  { expenses, distances, on }: { expenses: readonly string[]; distances: readonly string[]; on: string },
): Promise<Outcome<{ paid: number }>> {
  const mark = (table: string, ids: readonly string[]) =>
    work
      .tx(table)
      .whereIn('id', ids)
      .where({ approval: 'approved' })
      .whereNull('reimbursed_on')
      .whereNull('removed_at')
      .update({ reimbursed_on: on });
  const paid = (await mark('expense', expenses)) + (await mark('time_entry', distances));
  const asked = new Set([...expenses, ...distances]).size;
  if (paid !== asked)
    return refuse(
      'changed-meanwhile',
      `${asked - paid} of ${asked} were paid back already, or are not approved any more. Load the list again.`,
    );
  for (const id of expenses) await work.tell('expense.paid-back', id, { on });
  for (const id of distances) await work.tell('entry.distance-paid-back', id, { on });
  return { paid };
}
