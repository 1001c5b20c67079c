import {
  ageOf,
  AGES,
  type AgedClientWire,
  type AgeingWire,
  expectedCash,
  type Habit,
  habitOf,
  LEAST_FOR_HABIT,
  type ToCome,
} from '@core/billing';
import { type Currency, daysBetween, type Explanation, type Id, type LocalDate, money, plusDays, plural, step } from '@core/ground';
import type { Db } from '../../app/database';
import type { HouseBook } from '../../house';
import { CREDIT } from '../payments/list-credit';

const WEEKS = 8;
/** Invoices of so many days back say how a client pays. */
const HABIT_DAYS = 365;

interface Open {
  readonly client_id: Id<'client'>;
  readonly client: string;
  readonly due_on: LocalDate;
  readonly left_minor: number;
  readonly reminders: number;
  readonly reminded_on: LocalDate | null;
}

interface Paid {
  readonly client_id: Id<'client'>;
  readonly due_on: LocalDate;
  readonly paid_on: LocalDate;
}

/** What clients owe by age and what is expected by week, in the house's currency. */
export async function readAgeing(db: Db, book: HouseBook, today: LocalDate): Promise<AgeingWire> {
  const { currency } = book.house;
  const open = await readOpen(db, currency);
  const credit = await readCredit(db, currency);
  const habits = habitsOf(await readPaid(db, today));
  const byClient = new Map<Id<'client'>, Open[]>();
  for (const i of open) byClient.set(i.client_id, [...(byClient.get(i.client_id) ?? []), i]);
  const clients = [...byClient]
    .map(([clientId, invoices]) =>
      agedClient({ clientId, invoices, credit: credit.get(clientId) ?? 0, habit: habits(clientId) }, { today, currency }),
    )
    .toSorted((a, b) => b.overdue.minor - a.overdue.minor || b.left.minor - a.left.minor || (a.client < b.client ? -1 : 1));
  const toCome = open.map((i): ToCome => ({ left: money(Number(i.left_minor), currency), dueOn: i.due_on, clientId: i.client_id }));
  const cash = expectedCash(toCome, { today, weeks: WEEKS, habit: (clientId) => habits(clientId as Id<'client'>).days }, currency);
  return {
    on: today,
    ages: agesOf(open, { today, currency }),
    left: sum(
      clients.map((c) => c.left.minor),
      currency,
    ),
    overdue: sum(
      clients.map((c) => c.overdue.minor),
      currency,
    ),
    credit: sum([...credit.values()], currency),
    clients,
    weeks: cash.weeks.map((w) => ({ ...w })),
    later: cash.later,
    unknown: { ...cash.unknown },
  };
}

interface Aged {
  readonly clientId: Id<'client'>;
  readonly invoices: readonly Open[];
  readonly credit: number;
  readonly habit: Known;
}
interface On {
  readonly today: LocalDate;
  readonly currency: Currency;
}

function agedClient({ clientId, invoices, credit, habit }: Aged, on: On): AgedClientWire {
  const ages = agesOf(invoices, on);
  const left = ages.reduce((all, { minor }) => all + minor, 0);
  const reminded = invoices.flatMap((i) => i.reminded_on ?? []).toSorted();
  return {
    clientId,
    client: invoices[0]!.client,
    ages,
    left: money(left, on.currency),
    overdue: money(left - ages[0]!.minor, on.currency),
    invoices: invoices.length,
    credit: money(credit, on.currency),
    oldestDueOn: invoices.map((i) => i.due_on).toSorted()[0]!,
    paysAfter: habit.days,
    why: habit.why,
    reminders: Math.max(0, ...invoices.map((i) => Number(i.reminders))),
    remindedOn: reminded.at(-1) ?? null,
  };
}

function agesOf(invoices: readonly Open[], { today, currency }: On) {
  return AGES.map((age) =>
    sum(
      invoices.filter((i) => ageOf(i.due_on, today) === age).map((i) => Number(i.left_minor)),
      currency,
    ),
  );
}

function sum(minors: readonly number[], currency: Currency) {
  return money(
    minors.reduce((all, minor) => all + Number(minor), 0),
    currency,
  );
}

interface Known {
  readonly days: number;
  readonly why: Explanation;
}

/** How each client pays; as all do where too little is known of one. */
function habitsOf(paid: readonly Paid[]): (clientId: Id<'client'>) => Known {
  const late = (some: readonly Paid[]) => habitOf(some.map((p) => daysBetween(p.due_on, p.paid_on)));
  const house = late(paid);
  const of = new Map<string, Habit | undefined>();
  return (clientId) => {
    if (!of.has(clientId)) of.set(clientId, late(paid.filter((p) => p.client_id === clientId)));
    const own = of.get(clientId);
    if (own && own.of >= LEAST_FOR_HABIT)
      return { days: own.days, why: [step(`the middle of ${own.of} invoices that they paid in the last year`, sayDays(own.days))] };
    const few = step(`fewer than ${LEAST_FOR_HABIT} paid invoices of theirs in the last year`, String(own?.of ?? 0));
    if (!house) return { days: 0, why: [few, step('none was paid by anybody: on the day it is due', sayDays(0))] };
    return { days: house.days, why: [few, step(`as all clients: the middle of ${house.of} paid invoices`, sayDays(house.days))] };
  };
}

function sayDays(days: number): string {
  if (!days) return 'on the day it is due';
  return `${plural(Math.abs(days), 'day')} ${days > 0 ? 'after' : 'before'} it is due`;
}

function readOpen(db: Db, currency: Currency): Promise<Open[]> {
  return db('invoice as i')
    .join('invoice_standing as s', 's.invoice_id', 'i.id')
    .join('client as c', 'c.id', 'i.client_id')
    .joinRaw(
      'left join lateral (select count(*) as reminders, max(r.on_date) as reminded_on from reminder_invoice r where r.invoice_id = i.id) rem on true',
    )
    .where({ 'i.kind': 'invoice', 'i.currency': currency })
    .whereRaw('s.settled_minor < i.gross_minor')
    .orderBy(['c.name', 'i.due_on', 'i.number'])
    .select(
      'i.client_id',
      'c.name as client',
      'i.due_on',
      db.raw('i.gross_minor - s.settled_minor as left_minor, rem.reminders, rem.reminded_on'),
    ) as never;
}

async function readCredit(db: Db, currency: Currency): Promise<ReadonlyMap<Id<'client'>, number>> {
  const rows: { client_id: Id<'client'>; left: number }[] = await db
    .from(db.raw(CREDIT) as never)
    .where('x.currency', currency)
    .whereNotNull('x.client_id')
    .groupBy('x.client_id')
    .havingRaw('sum(x.left_minor) <> 0')
    .select('x.client_id', db.raw('sum(x.left_minor)::bigint as left'));
  return new Map(rows.map((r) => [r.client_id, Number(r.left)]));
}

/** Invoices that money has settled whole, with the day of the last of it. */
async function readPaid(db: Db, today: LocalDate): Promise<Paid[]> {
  const { rows } = await db.raw<{ rows: Paid[] }>(
    `select i.client_id, i.due_on, max(p.received_on) as paid_on
       from invoice i join invoice_standing s on s.invoice_id = i.id join allocation a on a.invoice_id = i.id join payment p on p.id = a.payment_id
       where i.kind = 'invoice' and s.settled_minor = i.gross_minor and i.due_on > ?
         and a.takes_back_id is null and not exists (select from allocation b where b.takes_back_id = a.id)
       group by i.id`,
    [plusDays(today, -HABIT_DAYS)],
  );
  return rows;
}
