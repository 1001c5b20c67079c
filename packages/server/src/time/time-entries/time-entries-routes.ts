import { dateOf, isRefusal, parseInstant, parseLocalDate, plusSeconds } from '@core/ground';
import { timeRoutes } from '@core/time';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { beHere, closeDay, declareComplete, openDay } from './close-days';
import { readDaySheet, readEntries, readOver, readTimers } from './day-sheet-read-model';
import { addEntry, editEntry, removeEntry } from './record-time';
import { discardTimer, moveTimer, pauseTimer, startTimer } from './timers';
import { previewEntries, previewEntry, readGraded, sentEffect } from './preview-entry';

export function bindTimeEntries(app: App) {
  const { house } = app;
  return bindRoutes(app, timeRoutes, {
    listTimers: async ({ db, actor, now }) => ({ timers: await readTimers(db, actor.personId!, now) }),
    startTimer: ({ work, body }) => startTimer(work, body.workId),
    pauseTimer: ({ work, params }) => pauseTimer(work, params.timerId),
    moveTimer: ({ work, params, body }) => moveTimer(work, params.timerId, body.workId),
    setTimerOnOpen: async ({ work, body }) => {
      await work.tx('person').where({ id: work.actor.personId! }).update({ timer_on_open: body.on });
      return {};
    },
    discardTimer: ({ work, params }) => discardTimer(work, params.timerId),
    getDaySheet: ({ db, actor, query, now }) =>
      readDaySheet(db, house, {
        personId: actor.personId!,
        day: query.day ? parseLocalDate(query.day) : dateOf(now, house.house.zone),
        now,
      }),
    closeDay: ({ work, body }) => closeDay(work, house, body.day),
    openDay: ({ work, body }) => openDay(work, body.day),
    declareComplete: ({ work, body }) => declareComplete(work, house, body.upTo),
    beHere: ({ work }) => beHere(work, house),
    previewEntry: async ({ db, actor, query }) => {
      const who = await readGraded(db, actor.personId!);
      if (isRefusal(who)) return who;
      const { workId = null, billable, entryId, ...entry } = query;
      const from = parseInstant(entry.startsAt);
      const said = await previewEntry(db, house, { who, entry: { ...entry, workId, billable: billable === 'true' }, entryId });
      if (isRefusal(said)) return said;
      const { effect } = said;
      const to = plusSeconds(from, effect.minutes * 60);
      return { ...sentEffect(effect), over: await readOver(db, { personId: who.personId, except: entryId }, { from, to }) };
    },
    previewEntries: async ({ db, actor, body }) => {
      const who = await readGraded(db, actor.personId!);
      if (isRefusal(who)) return who;
      const effects = await previewEntries(db, house, { who, entries: body.entries });
      return isRefusal(effects) ? effects : { effects: effects.map(sentEffect) };
    },
    listTicketEntries: async ({ db, params }) => ({
      entries: await readEntries(db, (q) => q.where({ 'e.ticket_id': params.ticketId })),
    }),
    addEntry: ({ work, body }) => addEntry(work, house, body),
    editEntry: ({ work, params, version, body }) => editEntry(work, house, { entry: { id: params.entryId, version }, form: body }),
    removeEntry: ({ work, params, version }) => removeEntry(work, house, { entryId: params.entryId, version }),
  });
}
