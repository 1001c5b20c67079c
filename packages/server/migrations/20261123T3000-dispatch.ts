import type { Knex } from 'knex';

/** Everything that dispatch knows of people's time, places, bookings, estimates, openings and plans. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table house add column holiday_region text;
    alter table person add column holiday_region text, add column home_name text,
      add column home_latitude numeric(8,5), add column home_longitude numeric(8,5);
    -- Hours of one date instead of those of the week; none at all is a free day.
    create table shift (person_id uuid not null references person, day date not null, hours text[] not null, note text, primary key (person_id, day));
    alter table site add column directions text;
    -- Minutes between two places (sites, or people where they begin their day), the smaller id first.
    create table travel_time (place_a uuid not null, place_b uuid not null, minutes int not null check (minutes >= 0), source text not null check (source in ('by hand','logged')),
      set_at timestamptz not null, person_id uuid references person, primary key (place_a, place_b), check (place_a < place_b));

    alter table ticket add column needs_visit boolean not null default false;
    alter table booking rename column travel_minutes to travel_before;
    alter table booking add column travel_after int not null default 0, add column on_site boolean not null default false,
      add column tentative boolean not null default false, add column fixed boolean not null default false, add column bring text,
      add column crew_id uuid, add column series_id uuid, add column cancel_reason text,
      add column told_client_at timestamptz;
    create index on booking (crew_id) where crew_id is not null;
    create index on booking (series_id) where series_id is not null;
    -- Which booking an entry belongs to, where its technician said so.
    alter table time_entry add column booking_id uuid references booking;
    -- What happened to bookings; append-only.
    create table booking_change (
      id bigserial primary key, booking_id uuid not null references booking, at timestamptz not null, by_id uuid references person, what text not null,
      person_id uuid references person, starts_at timestamptz not null, ends_at timestamptz not null
    );
    create index on booking_change (booking_id, id);
    create table overrun (booking_id uuid primary key references booking, collides_with uuid not null references booking, found_at timestamptz not null, settled_at timestamptz);

    create table learned_estimate (likeness text not null, key text not null, cases int not null, median int not null, p80 int not null, judged int not null, right_cases int not null,
      learned_at timestamptz not null, primary key (likeness, key));

    create table day_plan (
      id uuid primary key default gen_random_uuid(), by_id uuid not null references person, made_at timestamptz not null, asked jsonb not null,
      state text not null default 'waiting' check (state in ('waiting','running','ready','applied','failed')), stop_asked boolean not null default false,
      rounds_done int not null default 0, result jsonb, trouble text
    );
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    drop table day_plan, learned_estimate, overrun, booking_change, travel_time, shift;
    alter table time_entry drop column booking_id;
    alter table booking drop column travel_after, drop column on_site, drop column tentative, drop column fixed, drop column bring, drop column crew_id,
      drop column series_id, drop column cancel_reason, drop column told_client_at;
    alter table booking rename column travel_before to travel_minutes;
    alter table ticket drop column needs_visit;
    alter table site drop column directions;
    alter table person drop column holiday_region, drop column home_name, drop column home_latitude, drop column home_longitude;
    alter table house drop column holiday_region;
  `);
}
