import type { Knex } from 'knex';

/**
 * Lines that are metered, priced by tiers or billed once; prepaid blocks, grants and rules of cover that hold from a day on;
 * what a document says beneath a line. Readings are append-only: one that was wrong is taken back by another.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table contract_line drop constraint contract_line_counted_check, drop constraint contract_line_frequency_check;
    alter table contract_line add check (counted in ('flat','seat','asset','metered')), add check (frequency in ('monthly','quarterly','yearly','once')),
      add column priced text not null default 'one price' check (priced in ('one price','tiers','volume')), add column unit_cost numeric(14,4) check (unit_cost >= 0),
      add column names_on_invoice boolean not null default false, add column taken_away_at timestamptz, add check (counted <> 'metered' or paid = 'in arrears'),
      add check (frequency <> 'once' or (counted = 'flat' and anchor_on = starts_on and ends_on = starts_on + 1));
    alter table contract_price add column tiers jsonb not null default '[]';
    create table contract_reading (
      id uuid primary key default gen_random_uuid(), line_id uuid not null references contract_line, on_date date not null, quantity numeric(14,4) not null check (quantity <> 0),
      -- Names it where it comes from: sent twice, it counts once.
      key text, source text not null check (source in ('by hand','from a file','by a program')), at timestamptz not null, unique (line_id, key)
    );
    create index on contract_reading (line_id, on_date);
    create trigger only_append before update or delete on contract_reading for each row execute function refuse_change();
    create table contract_block (
      id uuid primary key default gen_random_uuid(), allowance_id uuid not null references contract_allowance, line_id uuid not null unique references contract_line,
      granted_units bigint not null check (granted_units > 0), starts_on date not null, ends_on date, check (ends_on > starts_on)
    );
    create index on contract_block (allowance_id, starts_on);
    create table contract_grant (
      allowance_id uuid not null references contract_allowance, from_on date not null, granted_units bigint not null check (granted_units >= 0), primary key (allowance_id, from_on)
    );
    -- Periods that are closed, up to the first day that is open; what their entries drew never changes.
    create table contract_closing (
      id uuid primary key default gen_random_uuid(), contract_id uuid not null references contract, to_on date not null, closed_at timestamptz not null,
      who_name text not null, entries int not null, unique (contract_id, to_on)
    );
    create table closed_entry (entry_id uuid primary key references time_entry, closing_id uuid not null references contract_closing);
    create index on closed_entry (closing_id);
    create table closed_incident (
      contract_id uuid not null references contract, allowance_id uuid not null references contract_allowance, ticket_id uuid not null references ticket, primary key (allowance_id, ticket_id)
    );
    -- What closed entries drew in all, by day: derived from them when a period is closed, so that none is read again.
    create table contract_closed (contract_id uuid primary key references contract, draws jsonb not null, capped jsonb not null);
    alter table contract_cover add column desk_ids uuid[], add column kinds text[], add column from_on date, add column to_on date, add check (to_on > from_on);
    alter table charge add column details text;
    alter table invoice_line add column details text;
  `);
  for (const table of ['contract_closing', 'closed_entry', 'closed_incident'])
    await knex.raw(`create trigger only_append before update or delete on ${table} for each row execute function refuse_change()`);
  for (const [table, rule] of Object.entries(SEEN))
    await knex.raw(
      `alter table ${table} enable row level security; create policy of_division on ${table} to drumline_scoped using (${rule})`,
    );
}

const SEEN: Readonly<Record<string, string>> = {
  contract_closing: 'exists (select from contract o where o.id = contract_closing.contract_id)',
  closed_entry: 'exists (select from contract_closing o where o.id = closed_entry.closing_id)',
  closed_incident: 'exists (select from contract o where o.id = closed_incident.contract_id)',
  contract_closed: 'exists (select from contract o where o.id = contract_closed.contract_id)',
  contract_reading: 'exists (select from contract_line o where o.id = contract_reading.line_id)',
  contract_block: 'exists (select from contract_allowance o where o.id = contract_block.allowance_id)',
  contract_grant: 'exists (select from contract_allowance o where o.id = contract_grant.allowance_id)',
};

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table invoice_line drop column details; alter table charge drop column details;
    alter table contract_cover drop column desk_ids, drop column kinds, drop column from_on, drop column to_on;
    drop table contract_closed; drop table closed_incident; drop table closed_entry; drop table contract_closing; drop table contract_grant; drop table contract_block; drop table contract_reading;
    alter table contract_price drop column tiers;
    alter table contract_line drop column priced, drop column unit_cost, drop column names_on_invoice, drop column taken_away_at;
  `);
}
