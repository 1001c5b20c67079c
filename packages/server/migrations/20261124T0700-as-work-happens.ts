import type { Knex } from 'knex';

/** Named internal work, inside notes, a timer that starts by itself, and what kinds and desks ask and propose of time. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table internal_work (id uuid primary key default gen_random_uuid(), name text not null, archived_at timestamptz, version int not null default 1);
    alter table time_entry add column internal_id uuid references internal_work, add column inside_note text, add check (ticket_id is null or internal_id is null);
    alter table person add column timer_on_open boolean not null default false;
    alter table kind_rule add column asks_time text[] not null default '{}', add column activity_ids uuid[] not null default '{}';
    alter table desk add column usual_activity_id uuid references activity;
    -- What is done at the client's; and the way there, from which travel is learned.
    alter table activity add column visit boolean not null default false, add column travel boolean not null default false;
    update activity set visit = (name = 'on site'), travel = (name = 'travel');
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table activity drop column visit, drop column travel;
    alter table desk drop column usual_activity_id;
    alter table kind_rule drop column asks_time, drop column activity_ids;
    alter table person drop column timer_on_open;
    alter table time_entry drop column internal_id, drop column inside_note;
    drop table internal_work;
  `);
}
