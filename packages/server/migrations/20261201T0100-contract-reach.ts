import type { Knex } from 'knex';

/** Which work finds which contract, what somebody chose instead, and the rates and rounding that a contract has of its own. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table contract_reach (
      contract_id uuid not null references contract, reach text not null check (reach in ('asset','site','desk','kind','contact')),
      -- The id of what it is meant for, or the kind's name.
      of_what text not null, primary key (contract_id, reach, of_what)
    );
    -- What somebody chose for a ticket; no contract is by the hour.
    create table ticket_contract (ticket_id uuid primary key references ticket, contract_id uuid references contract);
    alter table time_entry add column chosen_by_hand boolean not null default false, add column chosen_contract_id uuid references contract;
    create table contract_settings (
      id int primary key default 1 check (id = 1), reach_order text[] not null default '{asset,site,desk,kind,contact}',
      -- At how many percent used somebody is told.
      warn_levels int[] not null default '{80,100}', version int not null default 1
    );
    insert into contract_settings default values;
    -- What was told already, so that it is told once.
    create table allowance_warning (
      allowance_id uuid not null references contract_allowance, period_from date not null, level int not null, told_at timestamptz not null,
      primary key (allowance_id, period_from, level)
    );
    alter table rate_rule add column contract_id uuid references contract, add check ((level = 'contract') = (contract_id is not null));
    create index on rate_rule (contract_id) where contract_id is not null;
    create table contract_rounding (
      contract_id uuid not null references contract, position int not null, activity_id uuid references activity,
      increment int not null check (increment > 0), mode text not null check (mode in ('up','nearest','down')), minimum int not null check (minimum >= 0),
      primary key (contract_id, position)
    );
    -- The end that a seat had, "no end" among them, before it ended because somebody left; and seats that had not begun then.
    alter table contract_seat add column ended_by_leaving text;
    create table seat_of_leaver (
      line_id uuid not null references contract_line, contact_id uuid references contact, asset_id uuid references asset, starts_on date not null, ends_on date,
      check (num_nonnulls(contact_id, asset_id) = 1)
    );
  `);
  for (const [table, rule] of Object.entries(SEEN))
    await knex.raw(
      `alter table ${table} enable row level security; create policy of_division on ${table} to drumline_scoped using (${rule})`,
    );
}

/** Who sees a division alone sees what hangs on its contracts and tickets. */
const SEEN: Readonly<Record<string, string>> = {
  contract_reach: 'exists (select from contract o where o.id = contract_reach.contract_id)',
  seat_of_leaver: 'exists (select from contract_line o where o.id = seat_of_leaver.line_id)',
  contract_rounding: 'exists (select from contract o where o.id = contract_rounding.contract_id)',
  allowance_warning: `exists (select from contract_allowance a join contract o on o.id = a.contract_id where a.id = allowance_warning.allowance_id)`,
  ticket_contract: 'exists (select from ticket o where o.id = ticket_contract.ticket_id)',
};

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    drop table seat_of_leaver;
    alter table contract_seat drop column ended_by_leaving;
    delete from rate_rule where level = 'contract';
    alter table rate_rule drop column contract_id;
    drop table allowance_warning; drop table contract_rounding; drop table contract_settings;
    alter table time_entry drop column chosen_by_hand, drop column chosen_contract_id;
    drop table ticket_contract; drop table contract_reach;
  `);
}
