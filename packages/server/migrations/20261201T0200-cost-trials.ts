import type { Knex } from 'knex';

/** What people cost the provider, by date, and what work would have cost under contracts that are tried on it. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table cost_rate (
      person_id uuid not null references person, from_on date not null, rate numeric(14,4) not null check (rate >= 0), primary key (person_id, from_on)
    );
    create table cost_trial (
      id uuid primary key default gen_random_uuid(), client_id uuid not null references client, contract_ids uuid[] not null,
      from_on date not null, to_on date not null, made_at timestamptz not null,
      state text not null default 'waiting' check (state in ('waiting','running','ready','failed')), percent int not null default 0, result jsonb, trouble text
    );
    alter table cost_trial enable row level security;
    create policy of_division on cost_trial to drumline_scoped using (exists (select from client o where o.id = cost_trial.client_id));
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('drop table cost_trial; drop table cost_rate;');
}
