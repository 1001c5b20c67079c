import type { Knex } from 'knex';

/** Money that people spent, with its receipt, and ways they drove. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table expense_category (
      id uuid primary key default gen_random_uuid(), name text not null, tax_percent numeric(6,3) not null, billable boolean not null, markup_percent numeric(6,2) not null,
      archived_at timestamptz, version int not null default 1
    );
    create table expense (
      id uuid primary key default gen_random_uuid(), person_id uuid not null references person, ticket_id uuid references ticket, client_id uuid references client, day date not null,
      category_id uuid not null references expense_category, paid_minor bigint not null check (paid_minor > 0), currency text not null, exchange numeric(14,4) check (exchange > 0),
      gross_minor bigint not null, net_minor bigint not null, tax_percent numeric(6,3) not null, note text, billable boolean not null, markup_percent numeric(6,2) not null,
      own_money boolean not null, receipt_name text, receipt_type text, receipt_bytes int, receipt_blob text,
      approval text not null default 'open' check (approval in ('open','approved','returned')), reimbursed_on date, removed_at timestamptz, version int not null default 1
    );
    create index on expense (person_id, day);
    create index on expense (ticket_id);
    alter table time_decision add foreign key (expense_id) references expense;
    alter table charge add column expense_id uuid references expense;
    create index charge_expense on charge (expense_id) where expense_id is not null;
    create index charge_shared on charge (shared_from) where shared_from is not null;
    -- The record that a charge comes from; of an item that was added by hand, none.
    alter table charge add column cause_id uuid generated always as (coalesce(time_entry_id, shared_from, expense_id, case when cause = 'fee' then ticket_id end)) stored;
    create unique index charge_cause on charge (cause, cause_id, part) where cause_id is not null;
    alter table charge add check (num_nonnulls(time_entry_id, shared_from, expense_id) <= 1),
      add check ((cause in ('entry','distance','call-out')) = (time_entry_id is not null)),
      add check ((cause = 'share') = (shared_from is not null)), add check ((cause = 'expense') = (expense_id is not null));
    alter table time_entry add column distance numeric(7,1) check (distance > 0), add column reimbursed_on date;
    -- What a distance is charged at and paid back at, for one unit of it.
    alter table house add column distance_unit text not null default 'km' check (distance_unit in ('km','miles')),
      add column distance_rate numeric(14,4) not null default 0, add column distance_paid_back numeric(14,4) not null default 0;
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table house drop column distance_unit, drop column distance_rate, drop column distance_paid_back;
    alter table time_entry drop column distance, drop column reimbursed_on;
    delete from charge where expense_id is not null;
    alter table charge drop column cause_id;
    alter table charge drop column expense_id;
    delete from time_decision where expense_id is not null;
    alter table time_decision drop constraint time_decision_expense_id_fkey;
    drop table expense, expense_category;
  `);
}
