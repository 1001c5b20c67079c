import type { Knex } from 'knex';

/** What a client pays for an item where that is not the catalogue's price. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table client_price (
      client_id uuid not null references client, item_id uuid not null references catalogue_item, price numeric(14,4) not null check (price >= 0),
      basis text not null check (basis in ('net','gross')), primary key (client_id, item_id)
    )
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('drop table client_price');
}
