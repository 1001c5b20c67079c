import type { Knex } from 'knex';

/** A live event says what its record belongs to, so that a screen is read anew for what it shows alone. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw('alter table outbox add column ticket_id uuid, add column client_id uuid, add column person_id uuid');
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('alter table outbox drop column ticket_id, drop column client_id, drop column person_id');
}
