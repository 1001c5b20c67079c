import type { Knex } from 'knex';

/** Kinds under the house's own names. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table own_kind (
      id uuid primary key default gen_random_uuid(), name text not null, stands_for text not null, archived_at timestamptz, version int not null default 1
    );
    alter table ticket add column own_kind_id uuid references own_kind;
    -- Counting the open tickets of a kind reads no ticket.
    create index ticket_open_kind on ticket (kind) include (umbrella_id) where status not in ('resolved','closed');
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('drop index ticket_open_kind; alter table ticket drop column own_kind_id; drop table own_kind');
}
