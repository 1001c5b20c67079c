import type { Knex } from 'knex';

/** A view is for oneself, for one's team or for all. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table saved_view add column reach text not null default 'own' check (reach in ('own','team','all'));
    update saved_view set reach = 'all' where shared;
    alter table saved_view drop column shared;
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table saved_view add column shared boolean not null default false;
    update saved_view set shared = reach <> 'own';
    alter table saved_view drop column reach;
  `);
}
