import type { Knex } from 'knex';

/**
 * What was agreed with a client: which work it covers, how much, and what is billed again each period. Dates are half open:
 * `ends_on` is the first day without. A contract's state follows from its agreement and its dates and is never stored.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create sequence contract_number start 1001;
    create table contract (
      id uuid primary key default gen_random_uuid(), number int not null unique default nextval('contract_number'), version int not null default 1,
      client_id uuid not null references client, division_id uuid not null references division, name text not null, agreed_at timestamptz, made_at timestamptz not null,
      starts_on date not null, ends_on date, check (ends_on > starts_on), is_preferred boolean not null default false, purchase_order text, notes text,
      frequency text not null default 'monthly' check (frequency in ('monthly','quarterly','yearly')), anchored text not null default 'the calendar' check (anchored in ('the calendar','its start')),
      overage_factor numeric(8,4) not null default 1
    );
    create index on contract (client_id);
    create table contract_allowance (
      id uuid primary key default gen_random_uuid(), contract_id uuid not null references contract, name text not null,
      measure text not null check (measure in ('hours','money','incidents','unlimited')), granted_units bigint not null check (granted_units >= 0),
      each text not null check (each in ('each period','once')), granted text not null default 'whole' check (granted in ('whole','by days')),
      carry_days int not null default 0 check (carry_days >= 0), borrow_percent int not null default 0 check (borrow_percent between 0 and 100), position int not null
    );
    create index on contract_allowance (contract_id);
    create table contract_cover (
      id uuid primary key default gen_random_uuid(), contract_id uuid not null references contract, position int not null,
      grade_ids uuid[], activity_ids uuid[], bands text[], allowance_id uuid references contract_allowance, cap_units bigint, overage_factor numeric(8,4), includes_fees boolean not null,
      unique (contract_id, position)
    );
    create table contract_line (
      id uuid primary key default gen_random_uuid(), contract_id uuid not null references contract, version int not null default 1, name text not null, position int not null,
      counted text not null check (counted in ('flat','seat','asset')), frequency text not null check (frequency in ('monthly','quarterly','yearly')),
      -- A day on which its periods begin. It stays where the contract's start moves: what was billed was billed by it.
      anchor_on date not null, paid text not null check (paid in ('in advance','in arrears')), lead_days int not null check (lead_days >= 0),
      proration text not null check (proration in ('daily','first day','whole')), minimum int, maximum int, check (minimum <= maximum),
      starts_on date not null, ends_on date, check (ends_on > starts_on)
    );
    create index on contract_line (contract_id);
    create table contract_price (line_id uuid not null references contract_line, from_on date not null, price numeric(14,4) not null check (price >= 0), primary key (line_id, from_on));
    create extension if not exists btree_gist;
    create table contract_seat (
      id uuid primary key default gen_random_uuid(), line_id uuid not null references contract_line, version int not null default 1,
      contact_id uuid references contact, asset_id uuid references asset, check (num_nonnulls(contact_id, asset_id) = 1),
      starts_on date not null, ends_on date, check (ends_on > starts_on),
      exclude using gist (line_id with =, (coalesce(contact_id, asset_id)) with =, daterange(starts_on, ends_on) with &&)
    );
    create index on contract_seat (line_id);
    create index on contract_seat (contact_id);
    create index on contract_seat (asset_id);
    alter table charge add column contract_line_id uuid references contract_line, add foreign key (contract_id) references contract;
    alter table billing_link add foreign key (contract_line_id) references contract_line;
    create unique index charge_of_line on charge (contract_line_id, period, cause, part) where contract_line_id is not null;
    alter table time_entry add column contract_id uuid references contract;
    create index on time_entry (contract_id, starts_at) where contract_id is not null;
  `);
  for (const [table, rule] of Object.entries(SEEN))
    await knex.raw(
      `alter table ${table} enable row level security; create policy of_division on ${table} to drumline_scoped using (${rule})`,
    );
}

/** Who sees a division alone sees its contracts and what hangs on them. */
const OF_CONTRACT = (table: string) => `exists (select from contract o where o.id = ${table}.contract_id)`;
const OF_LINE = (table: string) => `exists (select from contract_line o where o.id = ${table}.line_id)`;
const SEEN: Readonly<Record<string, string>> = {
  contract: 'division_id = any ((select seen_divisions())::uuid[])',
  contract_allowance: OF_CONTRACT('contract_allowance'),
  contract_cover: OF_CONTRACT('contract_cover'),
  contract_line: OF_CONTRACT('contract_line'),
  contract_price: OF_LINE('contract_price'),
  contract_seat: OF_LINE('contract_seat'),
};

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table time_entry drop column contract_id;
    alter table billing_link drop constraint billing_link_contract_line_id_fkey;
    alter table charge drop column contract_line_id, drop constraint charge_contract_id_fkey;
    drop table contract_seat; drop table contract_price; drop table contract_line; drop table contract_cover; drop table contract_allowance; drop table contract;
    drop sequence contract_number;
  `);
}
