import type { Knex } from 'knex';

/** Statuses under the house's own names, and what holds for each kind of ticket. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table own_status (
      id uuid primary key default gen_random_uuid(), name text not null, stands_for text not null check (stands_for in ('queued','underway','on hold')),
      waits_for text check (waits_for in ('client','supplier','change window')), position serial, archived_at timestamptz, version int not null default 1,
      check ((stands_for = 'on hold') = (waits_for is not null))
    );
    alter table ticket add column own_status_id uuid references own_status;
    create table kind_rule (kind text primary key, offered boolean not null default true, promise_id uuid references promise);
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`drop table kind_rule; alter table ticket drop column own_status_id; drop table own_status`);
}
