import type { Knex } from 'knex';

/** Who is on call, who was rung and why, and suppliers and others who are no clients. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table on_call (id uuid primary key default gen_random_uuid(), person_id uuid not null references person, starts_at timestamptz not null, ends_at timestamptz not null, check (starts_at < ends_at));
    create index on on_call (ends_at);
    create table escalation (
      id uuid primary key default gen_random_uuid(), ticket_id uuid not null references ticket, at timestamptz not null, why text not null,
      person_id uuid not null references person, round int not null, mailed_at timestamptz, taken_at timestamptz,
      -- When others are rung where nobody took it; null once somebody did, or others were.
      again_at timestamptz
    );
    create index on escalation (ticket_id, at);
    create index on escalation (again_at) where again_at is not null;
    create table third_party (id uuid primary key default gen_random_uuid(), name text not null, address text not null unique);
    alter table house add column escalate_after_messages int not null default 3, add column escalate_again_minutes int not null default 15;
    alter table message add column third_party text;
    -- A third party wrote: somebody inside should look, and no reply is owed to the client.
    alter table ticket add column look_since timestamptz, add column look_at text;
    create index on ticket (look_since) where look_since is not null;
    alter table notice add column urgent boolean not null default false;
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table notice drop column urgent;
    alter table ticket drop column look_since, drop column look_at;
    alter table message drop column third_party;
    alter table house drop column escalate_after_messages, drop column escalate_again_minutes;
    drop table third_party, escalation, on_call;
  `);
}
