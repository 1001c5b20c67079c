import { absenceRoutes, balanceOfYear, overdrawnIn, type AbsenceKindWire, type AbsenceWire, type Taken } from '@core/time';
import { dateOf, holds, type Id, type Interval, type LocalDate, parseLocalDate, plusDays, refuse } from '@core/ground';
import type { Actor } from '../../app/actor';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { at, type Db, countOf } from '../../app/database';
import type { Row } from '../../app/rows';
import { addHouseRecord, archiveHouseRecord, editHouseRecord, publicHolidays, spanOfDates } from '../../house';
import { readTechnicians } from '../../scheduling';
import { askForAbsence, decideAbsence, withdrawAbsence } from './ask-for-absence';
import { countAbsence } from './count-absence';
import { readAbsences, readBalances, readKinds, readMissing, readTaken } from './read-absences';

const KIND = { table: 'absence_kind', word: 'kind of absence' };
const LATELY_DAYS = 30;
const columnsOf = (form: Omit<AbsenceKindWire, 'id' | 'version'>) => ({
  name: form.name,
  has_balance: form.hasBalance,
  year_halves: form.yearHalves,
  carry_halves: form.carryHalves,
  carry_until: form.carryUntil,
});

export function bindAbsences(app: App) {
  const { house } = app;
  const todayOf = (now: Parameters<typeof dateOf>[0]) => dateOf(now, house.house.zone);
  const tells = (actor: Actor) => actor.role !== null && holds(actor.role, 'time.approve');
  return bindRoutes(app, absenceRoutes, {
    listAbsences: async ({ db, actor, query, now }) => ({
      absences: await readAbsences(db, (q) => ofYear(q.where({ 'a.person_id': actor.personId }), query.year)),
      balances: await readBalances(db, { personId: actor.personId!, year: query.year, today: todayOf(now) }),
      kinds: await readKinds(db),
    }),
    previewAbsence: async ({ db, actor, query }) => {
      const kind = (await readKinds(db)).find((k) => k.id === query.kindId);
      if (!kind) return refuse('invalid', 'There is no such kind of absence.', { kindId: 'choose one of the list' });
      const [from, to] = [parseLocalDate(query.from), parseLocalDate(query.to)];
      if (to < from || plusDays(from, LONGEST_DAYS) < to)
        return refuse('invalid', `From ${from} to ${to} was given; it ends on or after its first day, within a year.`, {
          to: 'a later date',
        });
      const off = { from, to, fromMiddle: query.fromMiddle === 'yes', toMiddle: query.toMiddle === 'yes' };
      const counted = await countAbsence(db, house, { personId: actor.personId!, off });
      const taken = await readTaken(db, { personId: actor.personId!, kindId: kind.id });
      const with_: Taken = {
        ...taken,
        requested: new Map([...taken.requested, ...counted.days]),
        firstYear: Math.min(taken.firstYear, yearOf(from)),
      };
      const years = [...new Set([...counted.days.keys()].map(yearOf))];
      return {
        halves: counted.halves,
        left: kind.hasBalance
          ? years.map((year) => ({ year, halves: balanceOfYear({ year, today: from, rules: kind, taken: with_ }).left }))
          : [],
        overdrawn: kind.hasBalance ? years.reduce((sum, year) => sum + overdrawnIn(year, kind, with_), 0) : 0,
        bookings: await countBookings(db, actor.personId!, counted),
        away: await readMissing(db, counted, { zone: house.house.zone, tells: tells(actor), except: actor.personId! }),
      };
    },
    requestAbsence: ({ work, body }) => askForAbsence(work, house, body),
    withdrawAbsence: ({ work, params, version }) => withdrawAbsence(work, { id: params.absenceId, version }),
    decideAbsence: ({ work, params, version, body }) => decideAbsence(work, house, { id: params.absenceId, version, body }),
    listTeamAbsences: async ({ db, actor, query }) => {
      const [from, to] = [parseLocalDate(query.from), parseLocalDate(query.to)];
      const people = await readTechnicians(db, []);
      const shared = (await db('provider').first('holiday_region'))!;
      return {
        people: people.map((p) => ({ id: p.id, name: p.name, team: p.team })),
        missing: await readMissing(db, spanOfDates(house, from, plusDays(to, 1)), { zone: house.house.zone, tells: tells(actor) }),
        holidays: Object.entries(publicHolidays(shared.holiday_region, from, to))
          .filter(([day]) => day >= from && day <= to)
          .map(([day, name]) => ({ day, name })),
      };
    },
    listWaitingAbsences: async ({ db, now }) => {
      const kinds = await readKinds(db);
      const waiting = await readAbsences(db, (q) => q.where({ 'a.state': 'requested' }));
      return {
        absences: await Promise.all(waiting.map((absence) => judged(app, db, { absence, kinds, today: todayOf(now) }))),
        decided: await readAbsences(db, (q) =>
          q.whereIn('a.state', ['approved', 'refused']).where('a.decided_at', '>', at((now - LATELY_DAYS * 86_400) as typeof now)),
        ),
      };
    },
    listAbsenceKinds: async ({ db, query }) => ({
      kinds: await readKinds(db),
      people: (await db('person').where({ active: true }).whereNotNull('grade_id').orderBy('name').select('id', 'name')) as {
        id: Id<'person'>;
        name: string;
      }[],
      grants: (await db('absence_grant').where({ year: query.year })).map(
        (g: Row<'absence_grant', 'person_id' | 'kind_id' | 'halves'>) => ({
          personId: g.person_id,
          kindId: g.kind_id,
          halves: g.halves,
        }),
      ),
    }),
    addAbsenceKind: ({ work, body }) => addHouseRecord(work, KIND, columnsOf(body)),
    editAbsenceKind: ({ work, params, version, body }) =>
      editHouseRecord(work, { record: KIND, id: params.absenceKindId, version, row: columnsOf(body) }),
    archiveAbsenceKind: ({ work, params, version }) => archiveHouseRecord(work, { record: KIND, id: params.absenceKindId, version }),
    setAbsenceGrant: async ({ work, params, body }) => {
      const kind = await work.tx('absence_kind').where({ id: params.absenceKindId }).first('name');
      if (!kind) return refuse('not-found', 'There is no such kind of absence.');
      for (const { personId, halves } of body.grants) {
        const key = { person_id: personId, kind_id: params.absenceKindId, year: body.year };
        await work.tx('absence_grant').where(key).delete();
        if (halves !== null) await work.tx('absence_grant').insert({ ...key, halves });
      }
      await work.tell('setup.absence-grants-set', params.absenceKindId, { kind: kind.name, year: body.year, people: body.grants.length });
      return {};
    },
  });
}

const LONGEST_DAYS = 365;
const yearOf = (day: LocalDate) => Number(day.slice(0, 4));

function ofYear(query: ReturnType<Db>, year: number) {
  return query.where('a.from_day', '<=', `${year}-12-31`).where('a.to_day', '>=', `${year}-01-01`);
}

async function countBookings(db: Db, personId: Id<'person'>, { from, to }: Interval): Promise<number> {
  return countOf(
    db('booking')
      .where({ person_id: personId })
      .whereIn('state', ['planned', 'underway'])
      .where('starts_at', '<', at(to))
      .where('ends_at', '>', at(from)),
  );
}

/** An absence with what its decision goes by. */
async function judged(
  app: App,
  db: Db,
  { absence, kinds, today }: { absence: AbsenceWire; kinds: readonly AbsenceKindWire[]; today: LocalDate },
) {
  const kind = kinds.find((k) => k.id === absence.kindId && k.hasBalance);
  const row: Row<'absence', 'starts_at' | 'ends_at'> = await db('absence').where({ id: absence.id }).first('starts_at', 'ends_at');
  const span = { from: row.starts_at, to: row.ends_at };
  const taken = kind && (await readTaken(db, { personId: absence.personId, kindId: kind.id }));
  return {
    absence,
    left: kind && taken ? balanceOfYear({ year: yearOf(absence.from as LocalDate), today, rules: kind, taken }).left : null,
    away: await readMissing(db, span, { zone: app.house.house.zone, tells: true, except: absence.personId }),
    bookings: await countBookings(db, absence.personId, span),
  };
}
