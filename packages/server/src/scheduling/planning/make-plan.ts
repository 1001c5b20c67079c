import { planChanges, type ChangeWire, type PlanAsk } from '@core/scheduling';
import { formatInstant, type Id, type NamedWork, naming } from '@core/ground';
import type { App } from '../../app/app';
import { byJob } from '../../app/actor';
import { makeWork } from '../../app/work';
import { readProblem, type ReadProblem } from './plan-problem';
import type { SentPlan } from './plan-worker';

const JOB = byJob('planning');
/** Large days are cut by the time allowed; small ones are done before. */
export const PLAN_ROUNDS = 3000;
export const PLAN_MOST_MS = 1700;

/** What is kept of a plan that was made. */
export interface KeptPlan {
  readonly cost: number;
  readonly costNow: number;
  readonly changes: readonly ChangeWire[];
  readonly leftOut: readonly NamedWork[];
}

/** Job: makes a plan in a worker thread, tells how far it is, and stops when asked with the best so far. */
export async function makePlan(app: App, { planId }: { planId: Id<'day_plan'> }): Promise<void> {
  const row = await app.knex('day_plan').where({ id: planId }).first('asked', 'state');
  if (!row || row.state === 'ready' || row.state === 'applied') return;
  const put = (set: Record<string, unknown>) =>
    app.knex.transaction(async (tx) => {
      await tx('day_plan').where({ id: planId }).update(set);
      await makeWork({ tx, now: app.clock.now(), actor: JOB, book: app.house }).emit('plan', planId);
    });
  await put({ state: 'running' });
  const stop = new SharedArrayBuffer(4);
  try {
    const read = await readProblem(app.knex, app.house, { ask: row.asked as PlanAsk, now: app.clock.now() });
    let telling: Promise<unknown> = Promise.resolve();
    const plan = await app.plans.make(read.problem, {
      rounds: PLAN_ROUNDS,
      most: PLAN_MOST_MS,
      stop,
      on: ({ done, cost }) => {
        telling = telling
          .then(() => put({ rounds_done: done, result: JSON.stringify({ cost: rounded(cost) }) }))
          .then(() => app.knex('day_plan').where({ id: planId }).first('stop_asked'))
          .then((now) => void (now?.stop_asked && Atomics.store(new Int32Array(stop), 0, 1)))
          .catch((fault: unknown) => app.log.debug({ fault }, 'a plan could not tell how far it is'));
      },
    });
    await telling;
    await put({ state: 'ready', rounds_done: PLAN_ROUNDS, result: JSON.stringify(keptPlan(read, plan)) });
  } catch (fault) {
    await put({ state: 'failed', trouble: 'The plan could not be made. Ask for it again.' });
    throw fault;
  }
}

const rounded = (cost: number) => Math.round(cost * 10) / 10;

function keptPlan({ problem, bookings, tickets, people }: ReadProblem, sent: SentPlan): KeptPlan {
  const plan = { ...sent, lanes: new Map(sent.lanes) };
  const changes = planChanges({ ...problem, travel: () => 0 }, plan).map((c): ChangeWire => {
    const [booking, ticket] = [bookings.get(c.pieceId), tickets.get(c.pieceId)];
    const work = (booking ?? ticket)!;
    return {
      pieceId: c.pieceId,
      how: c.how,
      ...naming(work),
      client: work.client,
      priority: work.priority,
      personId: c.technicianId,
      person: people.get(c.technicianId)!,
      startsAt: formatInstant(c.span.from),
      endsAt: formatInstant(c.span.to),
      travelMinutes: c.travelMinutes,
      wasPerson: booking ? (people.get(booking.personId!) ?? null) : null,
      wasAt: booking?.startsAt ?? null,
      bookingId: booking?.id ?? null,
      bookingVersion: booking?.version ?? null,
      needs: [...c.needs],
      why: [...c.why],
    };
  });
  const left = sent.leftOut.flatMap((id) => tickets.get(id) ?? bookings.get(id) ?? []);
  return {
    cost: rounded(sent.cost),
    costNow: rounded(sent.costNow),
    changes,
    leftOut: left.map(naming),
  };
}
