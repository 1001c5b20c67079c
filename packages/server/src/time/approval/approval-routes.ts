import { approvalRoutes, withAddedAmounts } from '@core/time';
import { dateOf, formatMinutes, isRefusal, parseInstant, parseLocalDate, parseMinutes, refuse } from '@core/ground';
import { whoColumns } from '../../app/actor';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { at } from '../../app/database';
import type { Row } from '../../app/rows';
import { HOUSE_STORY, tellPerson } from '../../house';
import { previewEffects } from '../time-entries/preview-effects';
import { previewAddedAmounts, readVisit, visitOf } from '../time-entries/added-amounts';
import { sentEffect } from '../time-entries/preview-entry';
import { editEntry } from '../time-entries/record-time';
import { correctTime, previewCorrection } from './correct-time';
import { decideTime } from './decide-time';
import { readPersonWeek } from './read-person-week';

export function bindApproval(app: App) {
  const { house } = app;
  return bindRoutes(app, approvalRoutes, {
    getPersonWeek: async ({ db, params, query, now }) => {
      const person = await db('person').where({ id: params.personId }).first('id', 'name');
      if (!person) return refuse('not-found', 'There is no such person.');
      return readPersonWeek(db, house, { person, day: query.day ? parseLocalDate(query.day) : dateOf(now, house.house.zone) });
    },
    decideTime: ({ work, body }) => decideTime(work, house, body),
    setLongTime: async ({ work, body }) => {
      const minutes = parseMinutes(body.duration)!;
      await work.tx('time_settings').update({ long_minutes: minutes });
      await work.tell('setup.long-time-set', HOUSE_STORY, { minutes });
      return {};
    },
    changeTimeOf: async ({ work, params, version, body }) => {
      const was = await work.tx('time_entry').where({ id: params.entryId }).whereNull('removed_at').first();
      if (!was) return refuse('not-found', 'There is no such time entry.');
      if (was.person_id === work.actor.personId) return refuse('not-allowed', 'Change your own time in My time.');
      const { because, ...form } = body;
      const changed = await editEntry(work, house, { entry: { id: params.entryId, version, by: 'approver' }, form });
      if (isRefusal(changed)) return changed;
      const kept = `${formatMinutes(was.minutes)} ${house.activity(was.activity_id)?.name}`;
      await work.tx('time_decision').insert({
        entry_id: params.entryId,
        at: at(work.now),
        ...whoColumns(work.actor),
        decision: 'change',
        remark: because,
        was: JSON.stringify(kept),
      });
      const day = dateOf(was.starts_at, house.house.zone);
      await tellPerson(work, {
        personId: was.person_id,
        text: `${work.actor.name} changed your time of ${day}, which was ${kept}: ${because}`,
        ticketId: was.ticket_id,
      });
      return changed;
    },
    previewChangeOf: async ({ db, params, body }) => {
      const entry: (Row<'time_entry'> & Row<'work_facts', 'ticket_kind'>) | undefined = await db('time_entry as e')
        .join('work_facts as w', 'w.id', 'e.work_id')
        .where({ 'e.id': params.entryId })
        .whereNull('e.removed_at')
        .first('e.*', 'w.ticket_kind');
      if (!entry) return refuse('not-found', 'There is no such time entry.');
      const [minutes, startsAt] = [parseMinutes(body.duration)!, parseInstant(body.startsAt)];
      const { activityId, billable } = body;
      const changed = { ...entry, starts_at: startsAt, minutes, activity_id: activityId, billable };
      const [rated] = await previewEffects(db, house, { rows: [changed] });
      const visit = { ...visitOf(entry), startsAt, activityId, billable };
      return {
        effect: sentEffect(
          withAddedAmounts(
            { ...rated!, minutes },
            await previewAddedAmounts(db, house, { entry: visit, others: await readVisit(db, house, visit) }),
          ),
        ),
      };
    },
    previewCorrection: async ({ db, actor, params, body }) => {
      const effect = await previewCorrection(db, house, { actor, entryId: params.entryId, duration: body.duration });
      return isRefusal(effect) ? effect : { effect: sentEffect(effect) };
    },
    correctTime: ({ work, params, body }) => correctTime(work, house, { entryId: params.entryId, form: body }),
  });
}
