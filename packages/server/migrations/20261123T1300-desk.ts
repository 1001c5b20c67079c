import type { Knex } from 'knex';

/** The update clock and warnings, replies waived, calls, closing checks, and tickets that close by themselves. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table house
      add column closing_rules jsonb not null default '{}',
      add column close_after_dates int not null default 5 check (close_after_dates between 1 and 60),
      add column reopen_days int not null default 14 check (reopen_days between 0 and 365);
    alter table ticket
      add column resolution text, add column closes_at timestamptz, add column reply_owed_by text;
    create index ticket_closes on ticket (closes_at) where status = 'resolved' and closes_at is not null;
    -- seq tells what was written first in the same second.
    alter table message add column call_outcome text, add column thanks boolean not null default false, add column seq bigserial;
    alter table checklist_item add column due_at timestamptz, add column answered_at timestamptz;
    create index on checklist_item (owner_id, due_at) where answer is null;
    alter table ticket_clock
      add column runs_met int not null default 0, add column runs_missed int not null default 0,
      add column warn_at timestamptz, add column warn_percent int;
    create index ticket_clock_warn on ticket_clock (warn_at) where warn_at is not null;
    update promise_version set targets = targets || '{"warnAt": [75], "update": {
      "P1": {"minutes": 60, "on": "provider"}, "P2": {"minutes": 120, "on": "provider"},
      "P3": {"minutes": 480, "on": "provider"}, "P4": {"minutes": 960, "on": "provider"}}}';

    -- A reply that was owed and that somebody, or the rule for thanks, waived; 'taken back' undoes the latest.
    create table waiver (
      id bigserial primary key, ticket_id uuid not null references ticket, at timestamptz not null,
      who text not null check (who in ('person','contact','job','rule','system','nobody')), who_id uuid, who_name text not null,
      did text not null check (did in ('waived','thanks','taken back')), reason text not null, owed_since timestamptz not null, owed_by text
    );
    create index on waiver (ticket_id, id);
    -- A ticket resolved though something stood in the way: who, why, and what it was.
    create table closing_override (
      id bigserial primary key, ticket_id uuid not null references ticket, at timestamptz not null,
      who text not null check (who in ('person','contact','job','rule','system','nobody')), who_id uuid, who_name text not null,
      reason text not null, obstacles jsonb not null
    );
    create table clock_warning (
      ticket_id uuid not null references ticket, clock text not null, run int not null, percent int not null, at timestamptz not null,
      primary key (ticket_id, clock, run, percent)
    );
    create table notice (
      id uuid primary key default gen_random_uuid(), person_id uuid not null references person, at timestamptz not null, text text not null,
      ticket_id uuid references ticket, seen_at timestamptz
    );
    create index on notice (person_id, at desc);
    create trigger only_append before update or delete on waiver for each row execute function refuse_change();
    create trigger only_append before update or delete on closing_override for each row execute function refuse_change();
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    drop table notice, clock_warning, closing_override, waiver;
    alter table ticket_clock drop column runs_met, drop column runs_missed, drop column warn_at, drop column warn_percent;
    alter table checklist_item drop column due_at, drop column answered_at;
    alter table message drop column call_outcome, drop column thanks, drop column seq;
    alter table ticket drop column resolution, drop column closes_at, drop column reply_owed_by;
    alter table house drop column closing_rules, drop column close_after_dates, drop column reopen_days;
  `);
}
