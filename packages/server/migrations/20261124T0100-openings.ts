import type { Knex } from 'knex';

/** Openings that a client can choose from by mail; each is held by a tentative booking until it is taken or let go. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table opening_set (
      id uuid primary key default gen_random_uuid(), ticket_id uuid not null references ticket, token text not null unique, made_by uuid not null references person,
      made_at timestamptz not null, held_until timestamptz not null, state text not null default 'open' check (state in ('open','taken','declined','released','lapsed')),
      ended_at timestamptz, check ((state = 'open') = (ended_at is null))
    );
    create index on opening_set (held_until) where state = 'open';
    create index on opening_set (ticket_id);
    alter table booking add column opening_set_id uuid references opening_set;
    create index on booking (opening_set_id) where opening_set_id is not null;
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`alter table booking drop column opening_set_id; drop table opening_set;`);
}
