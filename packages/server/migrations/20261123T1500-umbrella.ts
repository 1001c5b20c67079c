import type { Knex } from 'knex';

/** One cause with many reports: umbrellas, their members, updates to all, and the page a contact follows. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table ticket add column is_umbrella boolean not null default false;
    -- The umbrella of which a ticket is a member now; the same as its open membership.
    alter table ticket add column umbrella_id uuid references ticket check (umbrella_id is null or not is_umbrella);
    create index ticket_members on ticket (umbrella_id) where umbrella_id is not null;
    create index ticket_umbrellas on ticket (received_at) where is_umbrella;
    create table membership (
      id uuid primary key default gen_random_uuid(), umbrella_id uuid not null references ticket, ticket_id uuid not null references ticket,
      joined_at timestamptz not null, joined_by uuid references person,
      -- What the member was before, and gets back when it is detached.
      was jsonb not null, ended_at timestamptz, ended_by text check (ended_by in ('detached','resolved')),
      check ((ended_at is null) = (ended_by is null))
    );
    create unique index membership_now on membership (ticket_id) where ended_at is null;
    create index on membership (umbrella_id);
    -- The secret address at which a contact follows their own report.
    create table status_link (token text primary key, ticket_id uuid not null unique references ticket, made_at timestamptz not null);
    -- One public update to the members of an umbrella; asks says that it asks whether it is back for them.
    create table member_update (
      id uuid primary key, umbrella_id uuid not null references ticket, at timestamptz not null, person_id uuid references person,
      text text not null, asks boolean not null
    );
    create index on member_update (umbrella_id, at);
    alter table message add column update_id uuid references member_update;
    create index on message (update_id) where update_id is not null;
    create table back_answer (
      id bigserial primary key, update_id uuid not null references member_update, ticket_id uuid not null references ticket,
      at timestamptz not null, back boolean not null
    );
    create index on back_answer (update_id, ticket_id, id);
    create trigger only_append before update or delete on back_answer for each row execute function refuse_change();
    create trigger only_append before update or delete on member_update for each row execute function refuse_change();
    alter table charge add column shared_from uuid references time_entry;
    -- Closing checks that members of an umbrella are asked as well.
    alter table house add column always_asked text[] not null default '{}';
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table house drop column always_asked;
    alter table charge drop column shared_from;
    alter table message drop column update_id;
    drop table back_answer, member_update, status_link, membership;
    alter table ticket drop column umbrella_id, drop column is_umbrella;
  `);
}
