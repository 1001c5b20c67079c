import type { EventType, Happenings } from '@core/events';
import {
  dateOf,
  daysBetween,
  formatInstant,
  type Id,
  isDateText,
  isRefusal,
  type Outcome,
  parseInstant,
  parseLocalDate,
  plusDays,
  readWeek,
  type Refusal,
  refuse,
  weekdayOf,
} from '@core/ground';
import { peopleRoutes, type PersonEvents } from '@core/house';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { at, countOf } from '../../app/database';
import type { Work } from '../../app/work';
import { HOUSE_STORY } from '../house/house-story';
import { isHolidayRegion } from './public-holidays';

export function bindPeople(app: App) {
  return bindRoutes(app, peopleRoutes, {
    listPeopleTime: async ({ db, now }) => {
      const people = await db('person as p')
        .leftJoin('person_hours as h', 'h.person_id', 'p.id')
        .leftJoin('team as t', 't.id', 'p.team_id')
        .where({ 'p.technician': true, 'p.active': true })
        .orderBy(['t.position', 'p.name'])
        .select('p.id', 'p.name', 't.name as team', 'h.week', 'p.holiday_region', 'p.home_name', 'p.home_latitude', 'p.home_longitude');
      const [house, shifts, skills, known, off] = await Promise.all([
        db('provider').first('holiday_region'),
        db('shift').where('day', '>=', dateOf(now, app.house.house.zone)).orderBy('day'),
        db('skill').orderBy('name').select('id', 'name'),
        db('person_skill').select('person_id', 'skill_id', 'level'),
        db('time_off').where('ends_at', '>', at(now)).orderBy('starts_at'),
      ]);
      return {
        skills,
        region: house!.holiday_region,
        people: people.map((p) => ({
          id: p.id,
          name: p.name,
          team: p.team,
          week: ((p.week ?? Array<string[]>(7).fill([])) as string[][]).map((h) => h.join(', ')),
          skills: known.filter((k) => k.person_id === p.id).map((k) => ({ skillId: k.skill_id, level: k.level })),
          place: {
            region: p.holiday_region,
            homeName: p.home_name,
            latitude: p.home_latitude === null ? null : Number(p.home_latitude),
            longitude: p.home_longitude === null ? null : Number(p.home_longitude),
          },
          shifts: shifts
            .filter((s) => s.person_id === p.id)
            .map((s) => ({ day: s.day as string, hours: (s.hours as string[]).join(', '), note: s.note })),
          timeOff: off
            .filter((o) => o.person_id === p.id)
            .map((o) => ({ id: o.id, startsAt: formatInstant(o.starts_at), endsAt: formatInstant(o.ends_at), reason: o.reason })),
        })),
      };
    },
    setWeek: async ({ work, params, body }) => {
      const week = (await noTechnician(work, params.personId)) ?? readWeek(body.week);
      if (isRefusal(week)) return week;
      await work
        .tx('person_hours')
        .insert({ person_id: params.personId, week: JSON.stringify(week) })
        .onConflict('person_id')
        .merge();
      return told(work, { personId: params.personId, type: 'person.pattern-changed', data: {} });
    },
    setShifts: async ({ work, params, body }) => {
      const barred = await noTechnician(work, params.personId);
      if (barred) return barred;
      const read = readWeek([body.hours, '', '', '', '', '', '']);
      if (isRefusal(read)) return refuse('invalid', read.detail, { hours: 'hours such as 14:00-22:00, or nothing for a free day' });
      const [from, to] = [parseLocalDate(body.from), parseLocalDate(body.to)];
      const length = daysBetween(from, to);
      if (length < 0 || length > MOST_SHIFT_DAYS)
        return refuse('invalid', `From ${from} to ${to} was given; it ends on or after its first day, within a year.`, {
          to: 'a later date',
        });
      const days = Array.from({ length: length + 1 }, (_, n) => plusDays(from, n)).filter((d) => body.weekdays.includes(weekdayOf(d)));
      for (const day of days)
        await work
          .tx('shift')
          .insert({ person_id: params.personId, day, hours: read[0], note: body.note })
          .onConflict(['person_id', 'day'])
          .merge();
      await told(work, { personId: params.personId, type: 'person.shifts-set', data: { days: days.length } });
      return { days: days.length };
    },
    removeShift: async ({ work, params }) => {
      if (!isDateText(params.day))
        return refuse('invalid', `${params.day} was given; a date is written as 2026-11-24.`, { day: 'a date such as 2026-11-24' });
      const removed = await work.tx('shift').where({ person_id: params.personId }).whereRaw('day::text = ?', [params.day]).delete();
      if (removed) await told(work, { personId: params.personId, type: 'person.shift-removed', data: { day: params.day } });
      return { removed };
    },
    setPersonPlace: async ({ work, params, body }) => {
      const barred = (await noTechnician(work, params.personId)) ?? unknownRegion(body.region);
      if (barred) return barred;
      await work.tx('person').where({ id: params.personId }).update({
        holiday_region: body.region,
        home_name: body.homeName,
        home_latitude: body.latitude,
        home_longitude: body.longitude,
      });
      return told(work, { personId: params.personId, type: 'person.home-changed', data: {} });
    },
    setHolidayRegion: async ({ work, body }) => {
      const barred = unknownRegion(body.region);
      if (barred) return barred;
      await work.tx('provider').update({ holiday_region: body.region });
      await work.tell('setup.holidays-set', HOUSE_STORY, { region: body.region });
      await work.emit('booking', null);
      return {};
    },
    setSkill: async ({ work, params, body }) => {
      const barred = await noTechnician(work, params.personId);
      if (barred) return barred;
      const skill = await work.tx('skill').where({ id: params.skillId }).first('name');
      if (!skill) return refuse('not-found', 'There is no such skill.');
      const own = { person_id: params.personId, skill_id: params.skillId };
      if (body.level === 0) await work.tx('person_skill').where(own).delete();
      else
        await work
          .tx('person_skill')
          .insert({ ...own, level: body.level })
          .onConflict(['person_id', 'skill_id'])
          .merge();
      return told(work, { personId: params.personId, type: 'person.skill-set', data: { skill: skill.name, level: body.level || null } });
    },
    addSkill: async ({ work, body }) => {
      const taken = await work.tx('skill').whereRaw('lower(name) = lower(?)', [body.name]).first('id');
      if (taken) return refuse('invalid', `There is a skill called ${body.name} already.`, { name: 'another name' });
      const [row] = await work.tx('skill').insert({ name: body.name }).returning('id');
      return { id: row!.id as string };
    },
    addTimeOff: async ({ work, params, body }) => {
      const barred = await noTechnician(work, params.personId);
      if (barred) return barred;
      const span = { starts_at: at(parseInstant(body.startsAt)), ends_at: at(parseInstant(body.endsAt)) };
      const [row] = await work
        .tx('time_off')
        .insert({ ...span, person_id: params.personId, reason: body.reason })
        .returning('id');
      const bookings = await countOf(
        work
          .tx('booking')
          .where({ person_id: params.personId })
          .whereIn('state', ['planned', 'underway'])
          .where('starts_at', '<', span.ends_at)
          .where('ends_at', '>', span.starts_at),
      );
      await told(work, { personId: params.personId, type: 'person.time-away-added', data: { reason: body.reason } });
      return { id: row!.id, bookings };
    },
    removeTimeOff: async ({ work, params }) => {
      const asked = await work.tx('time_off').where({ id: params.timeOffId }).whereNotNull('absence_id').first('id');
      if (asked) return refuse('not-possible-now', 'It is an approved absence. Take the approval back in Absences instead.');
      const [gone] = await work.tx('time_off').where({ id: params.timeOffId }).delete().returning('person_id');
      if (!gone) return { removed: 0 };
      await told(work, { personId: gone.person_id, type: 'person.time-away-removed', data: {} });
      return { removed: 1 };
    },
  });
}

const MOST_SHIFT_DAYS = 366;

function unknownRegion(region: string | null): Refusal | undefined {
  return region === null || isHolidayRegion(region)
    ? undefined
    : refuse('invalid', `No public holidays are known of ${region}.`, {
        region: 'a country such as IE, or one of its regions such as US-NY',
      });
}

async function noTechnician(work: Work, id: Id<'person'>): Promise<Outcome<never> | undefined> {
  const person = await work.tx('person').where({ id, technician: true, active: true }).first('id');
  return person ? undefined : refuse('not-found', 'There is no such technician.');
}

/** Lanes show it at once, on every open screen. */
async function told<Type extends keyof PersonEvents>(
  work: Work,
  { personId, type, data }: { readonly personId: Id<'person'>; readonly type: Type; readonly data: PersonEvents[Type] },
): Promise<Record<string, never>> {
  await work.tell<Type & EventType>(type, personId, data as Happenings[Type & EventType]);
  await work.emit('booking', null, { personId });
  return {};
}
