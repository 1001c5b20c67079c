import Holidays from 'date-holidays';
import {
  type CalendarForm,
  calendarRoutes,
  isRefusal,
  type KeptCalendar,
  type Outcome,
  readCalendar,
  refuse,
  typedCalendar,
} from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { changeRow } from '../../app/change-row';
import { at } from '../../app/database';
import type { Work } from '../../app/work';

export function bindCalendars(app: App) {
  return bindRoutes(app, calendarRoutes, {
    listCalendars: async ({ db }) => {
      const [rows, clients, house] = await Promise.all([
        db('calendar').orderBy('name').select('id', 'version', 'written'),
        db('client').whereNotNull('calendar_id').whereNull('archived_at').orderBy('name').select('calendar_id', 'name'),
        db('provider').first('calendar_id'),
      ]);
      return {
        calendars: rows.map((c) => ({
          id: c.id,
          version: c.version,
          ...typedCalendar(c.written as KeptCalendar),
          isProviders: house?.calendar_id === c.id,
          clients: clients.filter((k) => k.calendar_id === c.id).map((k) => k.name),
        })),
      };
    },
    listHolidays: async ({ query }) => {
      const all = new Holidays();
      const countries = named(all.getCountries('en'));
      if (!countries.some((c) => c.code === query.country))
        return refuse('invalid', `${query.country} was given; known are ${countries.map((c) => c.code).join(', ')}.`, {
          country: 'a country of the list',
        });
      const regions = named(all.getStates(query.country, 'en') ?? {});
      if (query.region && !regions.some((r) => r.code === query.region))
        return refuse('invalid', `${query.region} was given; known are ${regions.map((r) => r.code).join(', ') || 'no regions'}.`, {
          region: 'a region of the list',
        });
      const of = query.region ? new Holidays(query.country, query.region) : new Holidays(query.country);
      const days = of.getHolidays(query.year, 'en').filter((h) => h.type === 'public');
      const holidays = new Map(days.map((h) => [h.date.slice(0, 10), h.name]));
      return { holidays: [...holidays].map(([date, name]) => ({ date, name })), regions, countries };
    },
    addCalendar: async ({ work, body }) => {
      const kept = (await nameTaken(work, body.name, null)) ?? readCalendar(body);
      if (isRefusal(kept)) return kept;
      const [row] = await work
        .tx('calendar')
        .insert({ name: body.name, written: JSON.stringify(kept) })
        .returning(['id', 'version']);
      await work.tell('calendar.added', row!.id, { name: body.name });
      return row as { id: string; version: number };
    },
    editCalendar: ({ work, params, version, body }) => editCalendar(work, { id: params.calendarId, version, form: body }),
  });
}

const named = (by: Readonly<Record<string, string>>) =>
  Object.entries(by)
    .map(([code, name]) => ({ code, name }))
    .sort((a, b) => (a.name < b.name ? -1 : 1));

async function nameTaken(work: Work, name: string, own: string | null): Promise<Outcome<never> | undefined> {
  const taken = await work
    .tx('calendar')
    .whereRaw('lower(name) = lower(?)', [name])
    .modify((q) => own && void q.whereNot({ id: own }))
    .first('id');
  return taken ? refuse('invalid', `There is a calendar called ${name} already.`, { name: 'another name' }) : undefined;
}

/** What held until now is kept as a version; the clocks that run are given their new due instants by a job. */
async function editCalendar(
  work: Work,
  { id, version, form }: { readonly id: string; readonly version: number; readonly form: CalendarForm },
): Promise<Outcome<{ id: string; version: number }>> {
  const kept = (await nameTaken(work, form.name, id)) ?? readCalendar(form);
  if (isRefusal(kept)) return kept;
  const was = (await work.tx('calendar').where({ id }).forUpdate().first('written', 'version'))!;
  const changed = await changeRow(work, { table: 'calendar', id, version, set: { name: form.name, written: JSON.stringify(kept) } });
  if (isRefusal(changed)) return changed;
  await work.tx('calendar_version').insert({
    calendar_id: id,
    version: was.version,
    written: JSON.stringify(was.written),
    until: at(work.now),
    by_person: work.actor.personId,
  });
  await work.tell('calendar.changed', id, { name: form.name });
  await work.enqueue('apply-calendar', { calendarId: id }, { key: `apply-calendar.${id}` });
  return changed;
}
