import type { Knex } from 'knex';
import { migrateJobs } from './jobs';

/** Brings a database to the newest schema, the queue's own tables included. */
export async function migrate(knex: Knex, url: string): Promise<void> {
  await migrateJobs(url);
  await knex.migrate.latest();
}
