import type { Knex } from 'knex';

/** What a ticket is about, who works which line of a desk, who knows what, and tickets that were merged or split. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table skill (id uuid primary key default gen_random_uuid(), name text not null unique);
    create table person_skill (person_id uuid not null references person, skill_id uuid not null references skill, level int not null check (level between 1 and 3), primary key (person_id, skill_id));
    -- Two levels: one with a parent has no children.
    create table category (
      id uuid primary key default gen_random_uuid(), parent_id uuid references category, name text not null, skill_id uuid references skill,
      position int not null, archived_at timestamptz, version int not null default 1
    );
    create unique index category_name on category (coalesce(parent_id, '00000000-0000-0000-0000-000000000000'::uuid), lower(name)) where archived_at is null;
    create table desk_line (
      desk_id uuid not null references desk, line text not null check (line in ('first','second')), team_id uuid not null references team,
      assigns text not null check (assigns in ('nobody','least loaded','usual technician')), primary key (desk_id, line)
    );
    insert into desk_line select id, 'first', team_id, 'nobody' from desk where team_id is not null;
    alter table ticket
      add column category_id uuid references category, add column line text check (line in ('first','second')),
      add column merged_into_id uuid references ticket check (merged_into_id <> id);
    create index on ticket (category_id, status);
    create index on ticket (merged_into_id) where merged_into_id is not null;
    create index ticket_subject_like on ticket using gin (subject gin_trgm_ops);
    -- Where a message was before its ticket was merged into another.
    alter table message add column from_ticket_id uuid references ticket;
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table message drop column from_ticket_id;
    alter table ticket drop column category_id, drop column line, drop column merged_into_id;
    drop index if exists ticket_subject_like;
    drop table desk_line, category, person_skill, skill;
  `);
}
