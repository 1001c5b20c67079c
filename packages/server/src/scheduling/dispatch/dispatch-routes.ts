import { dispatchRoutes } from '@core/scheduling';
import { dateOf, formatInstant, isRefusal, parseLocalDate, plusSeconds, refuse } from '@core/ground';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { at } from '../../app/database';
import { withTime } from '../../desk';
import { bookWork } from './book-work';
import { cancelBooking, moveBooking, setBookingState } from './change-booking';
import { readDispatch } from './dispatch-read-model';
import { fitBookings, readQuestions } from './fit-bookings';
import { readMyWeek } from './read-my-week';
import { listUnbooked } from './read-unbooked';
import { startBooking } from './start-booking';
import { tellClient } from './tell-client';

const ASKED_DAYS = 14;

export function bindDispatch(app: App) {
  const { house } = app;
  return bindRoutes(app, dispatchRoutes, {
    getDispatch: ({ db, query, now }) => {
      const day = query.day ? parseLocalDate(query.day) : dateOf(now, house.house.zone);
      const teamIds = query.teams?.split(',') ?? [];
      return readDispatch(db, house, { query: { day, days: query.days, teamIds, cancelled: query.cancelled === 'yes' }, now });
    },
    getMyWeek: ({ db, query, actor, now }) =>
      readMyWeek(db, house, { personId: actor.personId!, day: query.day ? parseLocalDate(query.day) : dateOf(now, house.house.zone), now }),
    listUnbooked: ({ db, query, now }) => listUnbooked(db, house, { filter: query, now }),
    setNeedsVisit: async ({ work, params, body }) => {
      const [row] = await work
        .tx('ticket')
        .where({ id: params.ticketId })
        .update({ needs_visit: body.needsVisit, version: work.tx.raw('version + 1') })
        .returning(['id', 'version']);
      if (!row) return refuse('not-found', 'There is no such ticket.');
      await work.tell('ticket.needs-visit-set', params.ticketId, { needsVisit: body.needsVisit });
      return row;
    },
    setEstimate: async ({ work, params, body }) => {
      const [row] = await work
        .tx('ticket')
        .where({ id: params.ticketId })
        .update({ estimate_minutes: body.minutes, version: work.tx.raw('version + 1') })
        .returning(['id', 'version']);
      if (!row) return refuse('not-found', 'There is no such ticket.');
      await work.tell('ticket.estimate-set', params.ticketId, { minutes: body.minutes });
      return row;
    },
    book: async ({ work, body }) => {
      const done = await bookWork(work, house, { workId: body.workId, asked: body });
      if (!isRefusal(done) && body.tellClient) await tellClient(app, work, { bookingId: done.id });
      return done;
    },
    moveBooking: async ({ work, params, version, body }) => {
      const done = await moveBooking(work, house, { bookingId: params.bookingId, version, to: body });
      if (!isRefusal(done) && body.tellClient) await tellClient(app, work, { bookingId: done.id });
      return done;
    },
    cancelBooking: async ({ work, params, version, body }) => {
      const done = await cancelBooking(work, house, { bookingId: params.bookingId, version, body });
      if (!isRefusal(done) && body.tellClient) await tellClient(app, work, { bookingId: params.bookingId });
      return done;
    },
    restoreBooking: ({ work, params, version }) => setBookingState(work, house, { bookingId: params.bookingId, version, to: 'planned' }),
    startBooking: async ({ work, params, version, body, actor }) => {
      const begun = await startBooking(work, params.bookingId, version);
      if (isRefusal(begun)) return begun;
      if (body.tellClient) await tellClient(app, work, { bookingId: params.bookingId, note: `${actor.name} has begun to work on it.` });
      return { id: begun.id, version: begun.version };
    },
    finishBooking: async ({ work, params, version, body }) => {
      const finish = () => setBookingState(work, house, { bookingId: params.bookingId, version, to: 'done' });
      const booking = await work.tx('booking').where({ id: params.bookingId }).first('work_id', 'on_site', 'person_id');
      if (!booking || booking.person_id !== work.actor.personId || (!booking.on_site && !body.time)) return finish();
      return withTime(work, house, { timed: { workId: booking.work_id, action: 'visit', time: body.time, note: 'visit' }, act: finish });
    },
    listQuestions: async ({ db, actor, now }) => {
      const asked = await readQuestions(db, {
        zone: house.house.zone,
        personId: actor.personId!,
        since: at(plusSeconds(now, -ASKED_DAYS * 86_400)),
      });
      return {
        questions: asked.map(({ entry: e, bookings }) => ({
          entryId: e['id'],
          number: e['number'] as number,
          subject: e['subject'],
          startsAt: formatInstant(e['starts_at']),
          endsAt: formatInstant(e['ends_at']),
          bookings: bookings.map((b) => ({
            id: b['id'],
            startsAt: formatInstant(b['planned_starts_at']),
            endsAt: formatInstant(b['planned_ends_at']),
          })),
        })),
      };
    },
    answerQuestion: async ({ work, params, body, actor }) => {
      const entry = await work
        .tx('time_entry')
        .where({ id: params.entryId, person_id: actor.personId! })
        .whereNull('removed_at')
        .first('work_id');
      if (!entry) return refuse('not-found', 'You have no such time entry.');
      const own = { id: body.bookingId, work_id: entry.work_id, person_id: actor.personId, state: 'done' };
      if (!(await work.tx('booking').where(own).first('id')))
        return refuse('invalid', 'That is no booking of yours on this work that is done.', { bookingId: 'one of those asked about' });
      await work.tx('time_entry').where({ id: params.entryId }).update({ booking_id: body.bookingId });
      await fitBookings(work, house.house.zone, { workId: entry.work_id, personId: actor.personId });
      await work.tell('entry.booking-named', params.entryId, { bookingId: body.bookingId });
      return { id: params.entryId };
    },
  });
}
