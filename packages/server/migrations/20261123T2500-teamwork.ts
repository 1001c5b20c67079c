import type { Knex } from 'knex';

/** Several people on one ticket: who follows it, who is there, what it is related to, and files on their way to the client. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table follower (
      ticket_id uuid not null references ticket, person_id uuid not null references person, since timestamptz not null, primary key (ticket_id, person_id)
    );
    create index on follower (person_id);
    create table ticket_relation (
      one_id uuid not null references ticket, other_id uuid not null references ticket, at timestamptz not null, by_person uuid references person,
      primary key (one_id, other_id), check (one_id < other_id)
    );
    create index on ticket_relation (other_id);
    create index ticket_linked on ticket (linked_ticket_id) where linked_ticket_id is not null;
    -- A file that was put to a reply or note which is not sent yet.
    create table upload (
      id uuid primary key default gen_random_uuid(), ticket_id uuid not null references ticket, person_id uuid not null references person, at timestamptz not null,
      name text not null, media_type text not null, bytes int not null, blob text not null
    );
    create index on upload (ticket_id, person_id);
    -- Who looks at a ticket is forgotten with the server, and may be.
    create unlogged table presence (
      ticket_id uuid not null, person_id uuid not null, seen_at timestamptz not null, writing boolean not null, primary key (ticket_id, person_id)
    );
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('drop table presence, upload; drop index ticket_linked; drop table ticket_relation, follower');
}
