import type { Knex } from 'knex';

/** How often a process says that it lives. */
export const BEAT_MS = 5000;
/** A pool not heard of for so long is dead: its jobs are free again BEAT_MS later at the latest. */
const DEAD_SECONDS = 20;

/** Says that these pools of a process live, and frees the jobs of those that do not. */
export async function beat(knex: Knex, process: string, pools: readonly string[]): Promise<void> {
  for (const id of pools)
    await knex.raw(
      `insert into job_pool (id, process, beat_at) values (?, ?, now()) on conflict (id) do update set beat_at = excluded.beat_at`,
      [id, process],
    );
  await knex.raw(
    `select graphile_worker.force_unlock_workers(array_agg(dead.id)) from (
       select distinct j.locked_by as id from graphile_worker.jobs j
       left join job_pool p on p.id = j.locked_by
       where j.locked_at < now() - make_interval(secs => ?) and (p.id is null or p.beat_at < now() - make_interval(secs => ?))
     ) dead having count(*) > 0`,
    [DEAD_SECONDS, DEAD_SECONDS],
  );
  await knex.raw(`delete from job_pool where beat_at < now() - interval '1 day'`);
}

/** Frees what a pool held that has ended, without waiting for it to be found dead. */
export async function freeJobsOf(knex: Knex, pool: string): Promise<void> {
  await knex.raw(`select graphile_worker.force_unlock_workers(array[?])`, [pool]);
  await knex('job_pool').where({ id: pool }).delete();
}

/** How long a job may be on its way from the queue to a runner that has its hands free, in seconds. */
const HANDING_SECONDS = 10;

/** The jobs that these pools have held for a while. */
export async function heldBy(knex: Knex, pools: readonly string[]): Promise<string[]> {
  const rows = await knex('graphile_worker.jobs')
    .whereIn('locked_by', pools)
    .andWhereRaw('locked_at < now() - make_interval(secs => ?)', [HANDING_SECONDS])
    .select('id');
  return rows.map((row) => String(row.id));
}

/** Whether a job of these tasks that is due has waited for a while and nobody took it. */
export async function isOneWaiting(knex: Knex, tasks: readonly string[]): Promise<boolean> {
  const row = await knex('graphile_worker.jobs')
    .whereIn('task_identifier', tasks)
    .whereNull('locked_at')
    .andWhereRaw('attempts < max_attempts and greatest(run_at, updated_at) < now() - make_interval(secs => ?)', [HANDING_SECONDS])
    .first('id');
  return row !== undefined;
}
