import type { Knex } from 'knex';

/** Texts that are sent again and again. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table canned_reply (
      id uuid primary key default gen_random_uuid(), person_id uuid not null references person, name text not null, text text not null,
      shared boolean not null, version int not null default 1
    );
    create unique index canned_reply_name on canned_reply (person_id, lower(name));
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('drop table canned_reply');
}
