import type { Knex } from 'knex';

/** Whole jobs at a flat fee: what they are, which ticket has one, and whether the client agreed. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table flat_fee (
      id uuid primary key default gen_random_uuid(), name text not null, item_id uuid not null references catalogue_item, asks_client boolean not null,
      category_id uuid references category, words text[] not null default '{}', for_new_person boolean not null, for_new_asset boolean not null,
      position int not null, archived_at timestamptz, version int not null default 1
    );
    create table ticket_fee (
      ticket_id uuid primary key references ticket, fee_id uuid not null references flat_fee, quantity int not null check (quantity > 0),
      state text not null check (state in ('agreed','asked','refused')), charge_id uuid references charge on delete set null,
      result text check (result in ('success','failed')), note text, set_at timestamptz not null, set_by uuid references person
    );
    alter table ticket add column no_fee_at timestamptz;
    alter table contact add column since timestamptz;
    alter table asset add column since timestamptz;
    -- Lists of open tickets, by what they are narrowed by and in the order of what falls due.
    create index ticket_open_desk on ticket (desk_id, (coalesce(due_at, 'infinity'::timestamptz)), id) where status not in ('resolved','closed');
    create index ticket_open_assignee on ticket (assignee_id, (coalesce(due_at, 'infinity'::timestamptz)), id) where status not in ('resolved','closed');
    create index ticket_open_client on ticket (client_id, (coalesce(due_at, 'infinity'::timestamptz)), id) where status not in ('resolved','closed');
    create index ticket_open_priority on ticket (priority, (coalesce(due_at, 'infinity'::timestamptz)), id) where status not in ('resolved','closed');
    create index ticket_open_received on ticket (received_at desc, id desc) where status not in ('resolved','closed');
    create index ticket_open_changed on ticket (changed_at desc, id desc) where status not in ('resolved','closed');
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    drop index ticket_open_desk, ticket_open_assignee, ticket_open_client, ticket_open_priority, ticket_open_received, ticket_open_changed;
    alter table contact drop column since;
    alter table asset drop column since;
    alter table ticket drop column no_fee_at;
    drop table ticket_fee, flat_fee;
  `);
}
