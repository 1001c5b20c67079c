import type { Knex } from 'knex';

/** Fields and conditions of the house's own; closing checks before any move, not just before resolving. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table own_field (
      id uuid primary key default gen_random_uuid(), on_record text not null, name text not null, kind text not null, choices text[] not null default '{}',
      shown jsonb not null, required jsonb not null, asked text[] not null default '{}', position serial, archived_at timestamptz,
      version int not null default 1
    );
    create unique index own_field_name on own_field (on_record, lower(name)) where archived_at is null;
    alter table ticket add column fields jsonb not null default '{}';
    alter table asset add column fields jsonb not null default '{}';
    alter table client add column fields jsonb not null default '{}';
    alter table contact add column fields jsonb not null default '{}';
    create table own_condition (
      id uuid primary key default gen_random_uuid(), name text not null, kinds text[] not null default '{}', moves text[] not null,
      rule jsonb not null, archived_at timestamptz, version int not null default 1
    );
    update house set closing_rules = jsonb_build_object('resolved', closing_rules);
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    update house set closing_rules = coalesce(closing_rules -> 'resolved', '{}');
    drop table own_condition;
    alter table contact drop column fields;
    alter table client drop column fields;
    alter table asset drop column fields;
    alter table ticket drop column fields;
    drop table own_field;
  `);
}
