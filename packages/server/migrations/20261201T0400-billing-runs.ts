import type { Knex } from 'knex';

/** Billing runs: all that is due by a day, client by client, beside the last invoices; and charges that were adjusted settle what they were. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table billing_run (
      id uuid primary key default gen_random_uuid(), on_date date not null,
      state text not null default 'preparing' check (state in ('preparing','ready','issuing','done')),
      prepared_at timestamptz not null, who text not null, who_id uuid, who_name text not null,
      -- Who asked for what is being issued.
      asked_by uuid references person,
      clients int not null default 0, looked_at int not null default 0,
      -- The last client that was looked at, in order of id: it goes on there.
      after_client uuid, trouble text
    );
    -- Two people who prepare one at the same time prepare the same.
    create unique index on billing_run ((true)) where state <> 'done';
    create index on billing_run (on_date desc, id desc);
    create table billing_run_invoice (
      id uuid primary key default gen_random_uuid(), run_id uuid not null references billing_run, client_id uuid not null references client,
      state text not null default 'proposed' check (state in ('proposed','changed','held','asked','issued','failed')),
      charges int not null, net_minor bigint not null, currency text not null,
      last_id uuid references invoice, last_minor bigint not null default 0, reasons jsonb not null,
      invoice_id uuid references invoice unique, trouble text,
      unique (run_id, client_id), check ((state = 'issued') = (invoice_id is not null))
    );
    create index on billing_run_invoice (run_id, (abs(net_minor - last_minor)) desc, id);
    create index on billing_run_invoice (client_id);
    create table billing_run_held (
      run_id uuid not null references billing_run, charge_id uuid not null references charge on delete cascade, primary key (run_id, charge_id)
    );
    create index on billing_run_held (charge_id);
    -- Of a recurring charge that somebody adjusted: what of its period it settles all the same.
    alter table charge add column settles_minor bigint;
    alter table billing_run_invoice enable row level security;
    create policy of_division on billing_run_invoice to drumline_scoped using (exists (select from client o where o.id = billing_run_invoice.client_id));
    alter table billing_run_held enable row level security;
    create policy of_division on billing_run_held to drumline_scoped using (exists (select from charge o where o.id = billing_run_held.charge_id));
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(
    'alter table charge drop column settles_minor; drop table billing_run_held; drop table billing_run_invoice; drop table billing_run;',
  );
}
