import { isRefusal, refuse, sayWork } from '@core/ground';
import { planningRoutes, withNeeds } from '@core/scheduling';
import type { App } from '../../app/app';
import { bindRoutes } from '../../app/bind-routes';
import { at } from '../../app/database';
import { bookWork } from '../dispatch/book-work';
import { moveBooking } from '../dispatch/change-booking';
import { PLAN_ROUNDS, type KeptPlan } from './make-plan';

export function bindPlanning(app: App) {
  const { house } = app;
  return bindRoutes(app, planningRoutes, {
    askForPlan: async ({ work, body, actor, now }) => {
      const [row] = await work
        .tx('day_plan')
        .insert({ by_id: actor.personId, made_at: at(now), asked: JSON.stringify(body) })
        .returning('id');
      await work.enqueue('make-plan', { planId: row!.id }, { key: `make-plan:${row!.id}` });
      return { id: row!.id as string };
    },
    getPlan: async ({ db, params }) => {
      const row = await db('day_plan').where({ id: params.planId }).first();
      if (!row) return refuse('not-found', 'There is no such plan.');
      const kept = (row.result ?? {}) as Partial<KeptPlan>;
      return {
        id: row.id,
        state: row.state,
        percent: Math.floor((row.rounds_done * 100) / PLAN_ROUNDS),
        cost: kept.cost ?? null,
        costNow: kept.costNow ?? null,
        changes: [...(kept.changes ?? [])],
        leftOut: [...(kept.leftOut ?? [])],
        trouble: row.trouble,
      };
    },
    stopPlan: async ({ work, params }) => {
      await work.tx('day_plan').where({ id: params.planId }).update({ stop_asked: true });
      return { id: params.planId };
    },
    acceptPlan: async ({ work, params, body }) => {
      const row = await work.tx('day_plan').where({ id: params.planId }).forUpdate().first('state', 'result');
      if (!row) return refuse('not-found', 'There is no such plan.');
      if (row.state !== 'ready')
        return refuse('not-possible-now', row.state === 'applied' ? 'This plan was accepted already.' : 'This plan is not ready yet.');
      const { changes } = row.result as KeptPlan;
      const unknown = body.pieceIds.find((id) => !changes.some((c) => c.pieceId === id));
      if (unknown) return refuse('invalid', `${unknown} was given, which this plan does not change.`, { pieceIds: 'changes of the plan' });
      const chosen = withNeeds(changes as never, new Set(body.pieceIds));
      for (const c of changes.filter((x) => chosen.has(x.pieceId))) {
        const minutes = Math.round((Date.parse(c.endsAt) - Date.parse(c.startsAt)) / 60_000);
        const slot = { personId: c.personId, startsAt: c.startsAt, minutes };
        const visit = c.bookingId ? undefined : await work.tx('work_facts').where({ id: c.workId }).first('needs_visit');
        const taken = c.bookingId
          ? undefined
          : await work.tx('booking').where({ work_id: c.workId }).whereIn('state', ['planned', 'underway']).first('id');
        const done = taken
          ? refuse('changed-meanwhile', 'it has a booking by now')
          : c.bookingId
            ? await moveBooking(work, house, { bookingId: c.bookingId, version: c.bookingVersion!, to: slot })
            : await bookWork(work, house, { workId: c.workId, asked: { ...slot, onSite: visit?.needs_visit ?? undefined } });
        if (isRefusal(done)) return refuse(done.refused, `Nothing was changed: of ${sayWork(c)}, ${done.detail} Ask for a new plan.`);
      }
      await work.tx('day_plan').where({ id: params.planId }).update({ state: 'applied' });
      await work.emit('plan', params.planId);
      return { made: chosen.size };
    },
  });
}
