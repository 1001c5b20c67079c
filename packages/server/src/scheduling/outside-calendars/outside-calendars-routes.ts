import { outsideCalendarRoutes } from '@core/scheduling';
import { formatInstant, isRefusal, refuse } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes, prepared } from '../../app/bind-routes';
import { at, wireAt, countOf } from '../../app/database';
import type { Row } from '../../app/rows';
import { keepAppointments, readText, saidOfCut } from './read-calendars';

const NEXT_SHOWN = 3;
const MOST_CALENDARS = 10;

export function bindOutsideCalendars(app: App) {
  return bindRoutes(app, outsideCalendarRoutes, {
    listOutsideCalendars: async ({ db, actor, now }) => {
      const calendars: Row<'outside_calendar'>[] = await db('outside_calendar').where({ person_id: actor.personId! }).orderBy('made_at');
      const ahead: Row<'outside_appointment'>[] = await db('outside_appointment')
        .whereIn(
          'calendar_id',
          calendars.map((c) => c.id),
        )
        .where('ends_at', '>', at(now))
        .orderBy('starts_at');
      return {
        calendars: calendars.map((c) => {
          const own = ahead.filter((a) => a.calendar_id === c.id);
          return {
            id: c.id,
            name: c.name,
            address: c.address,
            ahead: own.length,
            next: own.slice(0, NEXT_SHOWN).map((a) => ({
              startsAt: formatInstant(a.starts_at),
              endsAt: formatInstant(a.ends_at),
              summary: a.summary,
            })),
            readAt: wireAt(c.read_at),
            trouble: c.trouble,
          };
        }),
      };
    },
    addOutsideCalendar: prepared(outsideCalendarRoutes.addOutsideCalendar)(
      async ({ body, now }) => {
        if (Boolean(body.address) === Boolean(body.file))
          return refuse('invalid', 'Give an address or a file, one of the two.', { address: 'an address, or a file instead' });
        if (!body.file) return { read: undefined };
        const read = await readText(app, { now, text: body.file, quotes: true });
        return isRefusal(read) ? refuse('invalid', read.detail, { file: read.detail }) : { read };
      },
      async ({ work, body, actor, now }, { read }) => {
        const mine = await countOf(work.tx('outside_calendar').where({ person_id: actor.personId! }));
        if (mine >= MOST_CALENDARS) return refuse('not-possible-now', `You have ${MOST_CALENDARS} calendars read in; remove one first.`);
        const [row] = await work
          .tx('outside_calendar')
          .insert({
            person_id: actor.personId,
            name: body.name,
            address: body.address || null,
            body: body.file,
            made_at: at(now),
            ...(read ? { read_at: at(now), trouble: saidOfCut(read) } : {}),
          })
          .returning('id');
        if (read) await keepAppointments(work, row!.id, read);
        else await work.enqueue('read-calendars', { calendarId: row!.id }, { key: `read-calendars:${row!.id}` });
        await work.tell('person.calendar-read-in', actor.personId!, { name: body.name });
        await work.emit('booking', null, { personId: actor.personId });
        return { id: row!.id as string };
      },
    ),
    readOutsideCalendar: async ({ work, params, actor }) => {
      const own = await work
        .tx('outside_calendar')
        .where({ id: params.outsideCalendarId, person_id: actor.personId! })
        .first('id', 'address');
      if (!own) return refuse('not-found', 'You have no such calendar.');
      if (!own.address) return refuse('not-possible-now', 'This calendar is from a file; read the newer file in.');
      await work.enqueue('read-calendars', { calendarId: own.id }, { key: `read-calendars:${own.id}` });
      return { id: own.id as string };
    },
    removeOutsideCalendar: async ({ work, params, actor }) => {
      const removed = await work.tx('outside_calendar').where({ id: params.outsideCalendarId, person_id: actor.personId! }).delete();
      if (removed) await work.tell('person.calendar-removed', actor.personId!, {});
      await work.emit('booking', null, { personId: actor.personId });
      return { removed };
    },
  });
}
