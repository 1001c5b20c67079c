import type { Knex } from 'knex';

/** Calendars that change: what held before is kept, since time counted stays counted. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table calendar add column version int not null default 1;
    create table calendar_version (
      calendar_id uuid not null references calendar, version int not null, written jsonb not null, until timestamptz not null, by_person uuid references person,
      primary key (calendar_id, version)
    );
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('drop table calendar_version; alter table calendar drop column version');
}
