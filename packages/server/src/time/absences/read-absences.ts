import { balanceOfYear, type AbsenceKindWire, type AbsenceWire, type BalanceWire, type MissingWire, type Taken } from '@core/time';
import { dateOf, formatInstant, type Id, type Interval, type LocalDate, plusSeconds, type Zone } from '@core/ground';
import { at, type Db } from '../../app/database';
import type { Row, Rows } from '../../app/rows';

type Narrow = (query: ReturnType<Db>) => unknown;

/** An absence with whose it is, its kind and who decided. */
type AbsenceShown = Row<'absence'> & { readonly person: string; readonly kind: string; readonly decider: string | null };

export function readAbsences(db: Db, narrow: Narrow): Promise<AbsenceWire[]> {
  const query = db('absence as a')
    .join('person as p', 'p.id', 'a.person_id')
    .join('absence_kind as k', 'k.id', 'a.kind_id')
    .leftJoin('person as d', 'd.id', 'a.decided_by')
    .orderBy(['a.from_day', 'a.id'])
    .select('a.*', 'p.name as person', 'k.name as kind', 'd.name as decider');
  narrow(query as never);
  return query.then((rows: AbsenceShown[]) => rows.map(absenceWire));
}

function absenceWire(a: AbsenceShown): AbsenceWire {
  return {
    id: a.id,
    version: a.version,
    personId: a.person_id,
    person: a.person,
    kindId: a.kind_id,
    kind: a.kind,
    from: a.from_day,
    to: a.to_day,
    fromMiddle: a.from_middle,
    toMiddle: a.to_middle,
    note: a.note,
    state: a.state,
    halves: Object.values(a.days).reduce((sum, n) => sum + n, 0),
    requestedAt: formatInstant(a.requested_at),
    decidedBy: a.decider,
    remark: a.remark,
  };
}

export async function readKinds(db: Db): Promise<AbsenceKindWire[]> {
  const rows: Row<'absence_kind'>[] = await db('absence_kind').whereNull('archived_at').orderByRaw('position, lower(name)');
  return rows.map((k) => ({
    id: k.id,
    version: k.version,
    name: k.name,
    hasBalance: k.has_balance,
    yearHalves: k.year_halves,
    carryHalves: k.carry_halves,
    carryUntil: k.carry_until,
  }));
}

/** What somebody was granted and took of one kind, all years; save one absence that is judged anew. */
export async function readTaken(
  db: Db,
  { personId, kindId, except }: { readonly personId: Id<'person'>; readonly kindId: Id<'absence_kind'>; readonly except?: string },
): Promise<Taken> {
  const own = { person_id: personId, kind_id: kindId };
  const absences: Row<'absence'>[] = await db('absence')
    .where(own)
    .whereIn('state', ['approved', 'requested'])
    .modify((q) => except && void q.whereNot({ id: except }));
  const granted = new Map<number, number>((await db('absence_grant').where(own)).map((g) => [g.year, g.halves]));
  const of = (state: string) =>
    new Map(absences.filter((a) => a.state === state).flatMap((a) => Object.entries(a.days))) as Map<LocalDate, number>;
  const years = [...granted.keys(), ...absences.map((a) => Number((a.from_day as string).slice(0, 4)))];
  return { granted, approved: of('approved'), requested: of('requested'), firstYear: Math.min(...years) };
}

/** What is left of a year of each kind that has a balance. */
export async function readBalances(
  db: Db,
  { personId, year, today }: { readonly personId: Id<'person'>; readonly year: number; readonly today: LocalDate },
): Promise<BalanceWire[]> {
  const kinds = (await readKinds(db)).filter((k) => k.hasBalance);
  return Promise.all(
    kinds.map(async (kind) => {
      const { explanation, ...balance } = balanceOfYear({
        year,
        today,
        rules: kind,
        taken: await readTaken(db, { personId, kindId: kind.id }),
      });
      return { kindId: kind.id, kind: kind.name, ...balance, why: explanation };
    }),
  );
}

/** Who is away in a span, asked for or noted by dispatch, others than somebody; what for is told to who approves. */
export async function readMissing(
  db: Db,
  span: Interval,
  { zone, tells, except }: { readonly zone: Zone; readonly tells: boolean; readonly except?: string },
): Promise<MissingWire[]> {
  const asked: (Row<'absence', 'person_id' | 'from_day' | 'to_day' | 'state'> &
    Row<'person', 'name'> & { readonly kind: Rows['absence_kind']['name'] })[] = await db('absence as a')
    .join('person as p', 'p.id', 'a.person_id')
    .join('absence_kind as k', 'k.id', 'a.kind_id')
    .whereIn('a.state', ['requested', 'approved'])
    .where('p.active', true)
    .where('a.starts_at', '<', at(span.to))
    .where('a.ends_at', '>', at(span.from))
    .modify((q) => except && void q.whereNot('a.person_id', except))
    .orderBy(['a.starts_at', 'p.name'])
    .select('a.person_id', 'p.name', 'a.from_day', 'a.to_day', 'k.name as kind', 'a.state');
  const noted: (Row<'time_off'> & Row<'person', 'name'>)[] = await db('time_off as o')
    .join('person as p', 'p.id', 'o.person_id')
    .whereNull('o.absence_id')
    .where('p.active', true)
    .where('o.starts_at', '<', at(span.to))
    .where('o.ends_at', '>', at(span.from))
    .modify((q) => except && void q.whereNot('o.person_id', except))
    .orderBy(['o.starts_at', 'p.name'])
    .select('o.*', 'p.name');
  const what = (kind: string) => (tells ? kind : 'away');
  return [
    ...asked.map((a): MissingWire => ({
      personId: a.person_id,
      person: a.name,
      from: a.from_day,
      to: a.to_day,
      what: what(a.kind),
      decided: a.state === 'approved',
    })),
    ...noted.map((o): MissingWire => ({
      personId: o.person_id,
      person: o.name,
      from: dateOf(o.starts_at, zone),
      to: dateOf(plusSeconds(o.ends_at, -1), zone),
      what: what(o.reason),
      decided: true,
    })),
  ];
}
