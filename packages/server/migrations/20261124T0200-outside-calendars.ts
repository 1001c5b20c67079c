import type { Knex } from 'knex';

/** Calendars of people from elsewhere, as they were last read, and the appointments that follow from them. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table outside_calendar (
      id uuid primary key default gen_random_uuid(), person_id uuid not null references person, name text not null, address text, body text, etag text,
      made_at timestamptz not null, read_at timestamptz, trouble text, check (address is not null or body is not null)
    );
    create index on outside_calendar (person_id);
    create table outside_appointment (
      calendar_id uuid not null references outside_calendar on delete cascade, uid text not null, starts_at timestamptz not null, ends_at timestamptz not null, summary text not null
    );
    create index on outside_appointment (calendar_id, ends_at);
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`drop table outside_appointment, outside_calendar;`);
}
