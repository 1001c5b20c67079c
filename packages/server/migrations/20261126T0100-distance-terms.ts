import type { Knex } from 'knex';

/** A way keeps the unit it was written in and what it is charged and paid back at, whatever the house sets later. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table time_entry add column distance_unit text check (distance_unit in ('km','miles')),
      add column distance_rate numeric(14,4), add column distance_paid_back numeric(14,4);
    update time_entry set distance_unit = h.distance_unit, distance_rate = h.distance_rate, distance_paid_back = h.distance_paid_back
      from house h where distance is not null;
    alter table time_entry add constraint distance_has_terms
      check (distance is null or (distance_unit is not null and distance_rate is not null and distance_paid_back is not null));
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('alter table time_entry drop column distance_unit, drop column distance_rate, drop column distance_paid_back');
}
