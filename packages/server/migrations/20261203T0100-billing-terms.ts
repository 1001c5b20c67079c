import type { Knex } from 'knex';

/** When clients are billed and on how many invoices; what a run bills as of which day, and what an invoice of several is for. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table house_billing_terms (
      id int primary key default 1 check (id = 1), version int not null default 1,
      billed_every text not null default 'run' check (billed_every in ('run','week','month','quarter','year')),
      weekday int check (weekday between 1 and 7), day int check (day between 1 and 31), month int check (month between 1 and 12),
      per text not null default 'client' check (per in ('client','contract','site','purchase order')), lead_days int not null default 10 check (lead_days >= 0)
    );
    insert into house_billing_terms default values;
    -- What is null is as the house does.
    create table client_billing_terms (
      client_id uuid primary key references client, version int not null default 1,
      billed_every text check (billed_every in ('run','week','month','quarter','year')),
      weekday int check (weekday between 1 and 7), day int check (day between 1 and 31), month int check (month between 1 and 12),
      per text check (per in ('client','contract','site','purchase order')), lead_days int check (lead_days >= 0)
    );
    alter table client_billing_terms enable row level security;
    create policy of_division on client_billing_terms to drumline_scoped using (exists (select from client o where o.id = client_billing_terms.client_id));
    -- Null is the client's lead, else the house's, which is what every line had.
    alter table contract_line alter column lead_days drop not null;
    update contract_line set lead_days = null where lead_days = 10;
    -- One at a time brings the invoices of a client in a run to the facts: its row is what they wait for.
    create table billing_run_client (
      run_id uuid not null references billing_run, client_id uuid not null references client, primary key (run_id, client_id)
    );
    alter table billing_run_client enable row level security;
    create policy of_division on billing_run_client to drumline_scoped using (exists (select from client o where o.id = billing_run_client.client_id));
    alter table billing_run_invoice add column part_key text not null default '', add column part jsonb not null default '{"per":"client","of":null,"name":null}';
    -- As of which day it bills, and whether what comes late waits for the next of the client's days.
    alter table billing_run_invoice add column through date, add column is_once boolean not null default false;
    alter table billing_run_invoice drop constraint billing_run_invoice_run_id_client_id_key, add unique (run_id, client_id, part_key);
    -- Of several invoices of a client, what one is for; and the client's own order.
    alter table invoice add column part_key text not null default '', add column billed_for text, add column purchase_order text;
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table invoice drop column part_key, drop column billed_for, drop column purchase_order;
    alter table billing_run_invoice drop constraint billing_run_invoice_run_id_client_id_part_key_key;
    alter table billing_run_invoice drop column part_key, drop column part, drop column through, drop column is_once, add unique (run_id, client_id);
    drop table billing_run_client;
    update contract_line set lead_days = 10 where lead_days is null;
    alter table contract_line alter column lead_days set not null;
    drop table client_billing_terms; drop table house_billing_terms;
  `);
}
