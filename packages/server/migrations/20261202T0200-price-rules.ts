import type { Knex } from 'knex';

/** Prices have one home: rules of a contract, of a client, or of the house. What clients had as own prices becomes theirs. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table price_rule (
      id uuid primary key default gen_random_uuid(), version int not null default 1,
      contract_id uuid references contract, client_id uuid references client, check (contract_id is null or client_id is null),
      item_id uuid references catalogue_item, category text, check (item_id is null or category is null),
      from_quantity numeric(14,4) not null default 1 check (from_quantity > 0), from_on date not null, to_on date, check (to_on > from_on),
      sets text not null check (sets in ('price','percent off','never billed')),
      price numeric(14,4) check (price >= 0), basis text not null default 'net' check (basis in ('net','gross')), check ((sets = 'price') = (price is not null)),
      percent numeric(7,4) check (percent between 0 and 100), check ((sets = 'percent off') = (percent is not null)), archived_at timestamptz
    );
    create index on price_rule (client_id) where archived_at is null;
    create index on price_rule (contract_id) where archived_at is null;
    insert into price_rule (client_id, item_id, from_on, sets, price, basis) select client_id, item_id, '2000-01-01', 'price', price, basis from client_price;
    drop table client_price;
    alter table price_rule enable row level security;
    create policy of_division on price_rule to drumline_scoped using (
      (client_id is null or exists (select from client o where o.id = price_rule.client_id)) and
      (contract_id is null or exists (select from contract o where o.id = price_rule.contract_id)));
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    create table client_price (
      client_id uuid not null references client, item_id uuid not null references catalogue_item, price numeric(14,4) not null check (price >= 0),
      basis text not null check (basis in ('net','gross')), primary key (client_id, item_id)
    );
    drop table price_rule;`);
}
