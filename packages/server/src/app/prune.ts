import type { App } from './app';

/** How long what only serves a while is kept, in days. */
export const KEPT_DAYS = { idempotencyKeys: 7, sentEvents: 7, sessions: 0, uploads: 7, plans: 7, trials: 30 } as const;

/** Job, once a night: removes keys of commands, live events already sent, files never sent, plans and sessions that have run out. */
export async function prune(app: App): Promise<void> {
  await app.knex.raw(`delete from idempotency_key where at < now() - make_interval(days => ?)`, [KEPT_DAYS.idempotencyKeys]);
  // By the demo's clock, which may differ from the machine's, as events carry it.
  await app.knex.raw(`delete from outbox where seq is not null and at < to_timestamp(?) - make_interval(days => ?)`, [
    app.clock.now(),
    KEPT_DAYS.sentEvents,
  ]);
  // Files that were put in and never sent.
  await app.knex.raw(`delete from upload where at < to_timestamp(?) - make_interval(days => ?)`, [app.clock.now(), KEPT_DAYS.uploads]);
  // Proposals; what was accepted stands in the bookings and their story.
  await app.knex.raw(`delete from cost_trial where made_at < to_timestamp(?) - make_interval(days => ?)`, [
    app.clock.now(),
    KEPT_DAYS.trials,
  ]);
  await app.knex.raw(`delete from day_plan where made_at < to_timestamp(?) - make_interval(days => ?)`, [app.clock.now(), KEPT_DAYS.plans]);
  await app.knex.raw(`delete from session where expire < now()`);
}
