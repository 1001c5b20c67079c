import { dateOf, parseInstant, parseLocalDate, parseMinutes, plusSeconds } from '@core/time';
import { timeRoutes } from '@core/time-entries';
import { refuse } from '@core/outcome';
import type { App } from '../app/app';
import { bindRoutes } from '../app/bind-routes';
import { beHere, closeDay, declareComplete, openDay } from './close-days';
import { readDaySheet, readEntries, readOver, readTimers } from './day-sheet-read-model';
import { addEntry, editEntry, removeEntry } from './record-time';
import { discardTimer, logTimer, moveTimer, pauseTimer, startTimer } from './timers';
import { effectOfEntry } from './recorded-entry';

export function bindTimeEntries(app: App) {
  const { house } = app;
  return bindRoutes(app, timeRoutes, {
    listTimers: async ({ db, actor, now }) => ({ timers: await readTimers(db, actor.personId!, now) }),
    startTimer: ({ work, body }) => startTimer(work, house, body.ticketId),
    pauseTimer: ({ work, params }) => pauseTimer(work, params.timerId),
    moveTimer: ({ work, params, body }) => moveTimer(work, params.timerId, body.ticketId),
    setTimerOnOpen: async ({ work, body }) => {
      await work.tx('person').where({ id: work.actor.personId }).update({ timer_on_open: body.on });
      return {};
    },
    discardTimer: ({ work, params }) => discardTimer(work, params.timerId),
    logTimer: ({ work, params, body }) => logTimer(work, house, params.timerId, body),
    getDaySheet: ({ db, actor, query, now }) =>
      readDaySheet(db, house, actor.personId!, query.day ? parseLocalDate(query.day) : dateOf(now, house.house.zone), now),
    closeDay: ({ work, body }) => closeDay(work, house, body.day),
    openDay: ({ work, body }) => openDay(work, body.day),
    declareComplete: ({ work, body }) => declareComplete(work, house, body.upTo),
    beHere: ({ work }) => beHere(work, house),
    previewEntry: async ({ db, actor, query }) => {
      const minutes = parseMinutes(query.duration)!;
      const from = parseInstant(query.startsAt);
      const person = await db('person').where({ id: actor.personId }).first('grade_id');
      const ticket = query.ticketId ? await db('ticket').where({ id: query.ticketId }).first('client_id', 'kind') : null;
      if (!person?.grade_id) return refuse('not-possible-now', 'You have no grade, so your time has no rate.');
      const effect = await effectOfEntry(db, house, {
        from,
        to: plusSeconds(from, minutes * 60),
        minutes,
        gradeId: person.grade_id,
        activityId: query.activityId,
        billable: query.billable === 'true',
        clientId: ticket?.client_id ?? null,
        ticketKind: ticket?.kind ?? null,
      });
      const to = plusSeconds(from, minutes * 60);
      return {
        amount: effect.amount,
        sentence: effect.sentence,
        minutes,
        billedMinutes: effect.billedMinutes,
        why: effect.why,
        over: await readOver(db, { personId: actor.personId!, except: query.entryId }, { from, to }),
      };
    },
    listTicketEntries: async ({ db, params }) => ({
      entries: await readEntries(db, house, (q) => q.where({ 'e.ticket_id': params.ticketId })),
    }),
    addEntry: ({ work, body }) => addEntry(work, house, body),
    editEntry: ({ work, params, version, body }) => editEntry(work, house, { id: params.entryId, version }, body),
    removeEntry: ({ work, params, version }) => removeEntry(work, house, params.entryId, version),
  });
}
