import type { Knex } from 'knex';

/** Discounts on contract lines, what people cost the provider, by date, and what work would have cost under contracts that are tried on it. */
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
    create table contract_discount (
      id uuid primary key default gen_random_uuid(), line_id uuid not null references contract_line, from_on date not null, to_on date, check (to_on > from_on),
      percent numeric(8,4), money_off numeric(14,4), check (num_nonnulls(percent, money_off) = 1)
    );
    create index on contract_discount (line_id);
    alter table contract_discount enable row level security;
    create policy of_division on contract_discount to drumline_scoped using (exists (select from contract_line o where o.id = contract_discount.line_id));
    alter table contract add column renewal text not null default 'ends' check (renewal in ('ends','goes on')),
      add column term_months int not null default 12 check (term_months > 0), add column notice_days int not null default 30 check (notice_days >= 0),
      add column notice_told_at timestamptz;
    alter table cost_trial enable row level security;
    create policy of_division on cost_trial to drumline_scoped using (exists (select from client o where o.id = cost_trial.client_id));
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(
    'alter table contract drop column renewal, drop column term_months, drop column notice_days, drop column notice_told_at; drop table contract_discount; drop table cost_trial; drop table cost_rate;',
  );
}
