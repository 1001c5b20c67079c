import type { Knex } from 'knex';

/** What a person says of their days: proposals that were no work, days that are closed, up to when time is complete, and minutes here. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table proposed_dismissed (person_id uuid not null references person, key text not null, at timestamptz not null, primary key (person_id, key));
    create table day_closed (person_id uuid not null references person, day date not null, closed_at timestamptz not null, primary key (person_id, day));
    create table time_complete (person_id uuid primary key references person, up_to date not null, declared_at timestamptz not null);
    -- How many minutes of a date somebody was active, and the last of them; nothing else of it is kept.
    create table minutes_here (person_id uuid not null references person, day date not null, minutes int not null check (minutes between 1 and 1500), last_minute timestamptz not null,
      primary key (person_id, day));
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`drop table minutes_here, time_complete, day_closed, proposed_dismissed;`);
}
