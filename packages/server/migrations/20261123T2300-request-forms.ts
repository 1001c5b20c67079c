import type { Knex } from 'knex';

/** Forms that clients fill outside Drumline, each at an address of its own. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table request_form (
      id uuid primary key default gen_random_uuid(), name text not null, path text not null, intro text not null, kind text, category_id uuid references category,
      fields uuid[] not null default '{}', archived_at timestamptz, version int not null default 1
    );
    create unique index request_form_path on request_form (path) where archived_at is null;
    alter table ticket add column request_form_id uuid references request_form;
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('alter table ticket drop column request_form_id; drop table request_form');
}
