import type { Knex } from 'knex';

/** Tickets that are written once and opened again and again: templates, checklists, and routine work by a rule. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table ticket_template (
      id uuid primary key default gen_random_uuid(), name text not null, subject text not null, text text not null, kind text, impact text, urgency text,
      category_id uuid references category, desk_id uuid references desk, line text, checklist text[] not null default '{}',
      archived_at timestamptz, version int not null default 1
    );
    create table checklist_template (
      id uuid primary key default gen_random_uuid(), name text not null, items text[] not null, archived_at timestamptz, version int not null default 1
    );
    create table routine (
      id uuid primary key default gen_random_uuid(), name text not null, template_id uuid not null references ticket_template,
      client_id uuid not null references client, contact_id uuid not null references contact, rule text not null, starts_on date not null,
      minute int not null check (minute between 0 and 1439), next_at timestamptz, archived_at timestamptz, version int not null default 1
    );
    create index routine_due on routine (next_at) where archived_at is null and next_at is not null;
    alter table ticket add column routine_id uuid references routine;
    -- One turn of a routine opens one ticket, however many processes look.
    create table routine_turn (routine_id uuid not null references routine, at timestamptz not null, ticket_id uuid references ticket, trouble text, primary key (routine_id, at));
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    drop table routine_turn;
    alter table ticket drop column routine_id;
    drop table routine, checklist_template, ticket_template;
  `);
}
