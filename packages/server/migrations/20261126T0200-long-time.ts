import type { Knex } from 'knex';

/** From how many minutes on recorded time makes a manager look twice. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw('alter table house add column long_minutes int not null default 300 check (long_minutes between 15 and 1440)');
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('alter table house drop column long_minutes');
}
