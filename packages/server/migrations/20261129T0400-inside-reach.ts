import type { Knex } from 'knex';

/** Whom what is inside of a desk's tickets is open to. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`alter table desk add column inside_reach text not null default 'house' check (inside_reach in ('house', 'team'))`);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('alter table desk drop column inside_reach');
}
