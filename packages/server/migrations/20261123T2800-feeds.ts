import type { Knex } from 'knex';

/** Schedules as calendar feeds, each at a secret address. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table schedule_feed (person_id uuid primary key references person, token text not null unique, made_at timestamptz not null);
    -- A booking that was handed on is cancelled in the feed of the one who had it.
    create table booking_left (booking_id uuid not null references booking, person_id uuid not null references person, at timestamptz not null, version int not null, primary key (booking_id, person_id));
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('drop table booking_left, schedule_feed');
}
