import type { Knex } from 'knex';

/** What holds for the whole provider, by what it is about: itself, its tickets, who is on call, its time. Each is one row. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table house rename to provider;
    alter table provider rename column provider to name;
    alter table provider alter column calendar_id set not null, alter column promise_version_id set not null;
    create table ticket_settings (
      id int primary key default 1 check (id = 1),
      priority_matrix jsonb not null, closing_rules jsonb not null default '{}', always_asked text[] not null default '{}',
      close_after_dates int not null default 5 check (close_after_dates between 1 and 60),
      reopen_days int not null default 14 check (reopen_days between 0 and 365)
    );
    insert into ticket_settings select id, priority_matrix, closing_rules, always_asked, close_after_dates, reopen_days from provider;
    create table on_call_settings (
      id int primary key default 1 check (id = 1), after_messages int not null default 3, again_minutes int not null default 15
    );
    insert into on_call_settings select id, escalate_after_messages, escalate_again_minutes from provider;
    create table time_settings (
      id int primary key default 1 check (id = 1),
      band_pricing jsonb not null, labour_tax jsonb not null,
      distance_unit text not null default 'km' check (distance_unit in ('km','miles')),
      distance_rate numeric(14,4) not null default 0, distance_paid_back numeric(14,4) not null default 0,
      long_minutes int not null default 300 check (long_minutes between 15 and 1440)
    );
    insert into time_settings
      select id, band_pricing, labour_tax, distance_unit, distance_rate, distance_paid_back, long_minutes from provider;
    -- There only where the data is the demo's.
    create table demo (id int primary key default 1 check (id = 1), clock_offset_seconds bigint not null);
    insert into demo select id, clock_offset_seconds from provider where is_demo;
    alter table provider
      drop column priority_matrix, drop column closing_rules, drop column always_asked, drop column close_after_dates,
      drop column reopen_days, drop column escalate_after_messages, drop column escalate_again_minutes, drop column band_pricing,
      drop column labour_tax, drop column distance_unit, drop column distance_rate, drop column distance_paid_back,
      drop column long_minutes, drop column clock_offset_seconds, drop column is_demo;
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table provider
      add column priority_matrix jsonb, add column band_pricing jsonb, add column labour_tax jsonb,
      add column closing_rules jsonb not null default '{}', add column always_asked text[] not null default '{}',
      add column close_after_dates int not null default 5 check (close_after_dates between 1 and 60),
      add column reopen_days int not null default 14 check (reopen_days between 0 and 365),
      add column escalate_after_messages int not null default 3, add column escalate_again_minutes int not null default 15,
      add column distance_unit text not null default 'km' check (distance_unit in ('km','miles')),
      add column distance_rate numeric(14,4) not null default 0, add column distance_paid_back numeric(14,4) not null default 0,
      add column long_minutes int not null default 300 check (long_minutes between 15 and 1440),
      add column clock_offset_seconds bigint not null default 0, add column is_demo boolean not null default false;
    update provider p set priority_matrix = t.priority_matrix, closing_rules = t.closing_rules, always_asked = t.always_asked,
      close_after_dates = t.close_after_dates, reopen_days = t.reopen_days from ticket_settings t;
    update provider p set escalate_after_messages = o.after_messages, escalate_again_minutes = o.again_minutes from on_call_settings o;
    update provider p set band_pricing = s.band_pricing, labour_tax = s.labour_tax, distance_unit = s.distance_unit,
      distance_rate = s.distance_rate, distance_paid_back = s.distance_paid_back, long_minutes = s.long_minutes from time_settings s;
    update provider p set clock_offset_seconds = d.clock_offset_seconds, is_demo = true from demo d;
    alter table provider alter column priority_matrix set not null, alter column band_pricing set not null,
      alter column labour_tax set not null;
    drop table ticket_settings, on_call_settings, time_settings, demo;
    alter table provider alter column calendar_id drop not null, alter column promise_version_id drop not null;
    alter table provider rename column name to provider;
    alter table provider rename to house;
  `);
}
