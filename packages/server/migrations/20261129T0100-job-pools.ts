import type { Knex } from 'knex';

/** Which process works the queue under which name, and when it was last heard of. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`create unlogged table job_pool (id text primary key, process text not null, beat_at timestamptz not null)`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('drop table job_pool');
}
