import type { Knex } from 'knex';

/** Views kept by name, records put away, and an index for each way a list is ordered. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    -- Until an activity or division has its own: the tax of labour.
    alter table house add column labour_tax jsonb not null default '{"category":"S","percent":"23"}';
    alter table house alter column labour_tax drop default;
    alter table site add column version int not null default 1;
    create table saved_view (
      id uuid primary key default gen_random_uuid(), list text not null, person_id uuid not null references person, name text not null,
      query text not null, shared boolean not null, at timestamptz not null, unique (list, person_id, name)
    );
    create index on client (name, id);
    create index on asset (number, id);
    create index on asset (name, id);
    create index on catalogue_item (name, id);
    create index on catalogue_item (category, id);
    create index on invoice (issued_on, id);
    create index on invoice (due_on, id);
    create index outbox_at on outbox (at);
    create index idempotency_key_at on idempotency_key (at);
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table house drop column labour_tax;
    drop table saved_view;
    alter table site drop column version;
  `);
}
