import type { Knex } from 'knex';

/** What is odd about a charge with its figures, what is kept for later, what approves by itself, and what is never billed. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table charge add column oddities jsonb not null default '[]', add column held_until date, add column held_why text, add check ((held_until is null) = (held_why is null));
    create index on charge using gin (oddities jsonb_path_ops) where standing = 'proposed';
    -- What a client paid for the like lately.
    create index on charge (client_id, on_date) where cause = 'entry' and unit = 'MIN' and state = 'approved';
    create index on charge (held_until) where held_until is not null;
    create or replace function keep_billed() returns trigger language plpgsql as $$ begin
      if old.billed_minor is not null and (tg_op = 'DELETE' or to_jsonb(new) - '{billed_minor,standing,cause_id,held_until,held_why}'::text[] is distinct from to_jsonb(old) - '{billed_minor,standing,cause_id,held_until,held_why}'::text[]) then raise exception 'a billed charge never changes'; end if;
      return coalesce(new, old); end $$;
    create table charge_review_settings (
      id int primary key default 1 check (id = 1), version int not null default 1,
      old_days int not null default 45 check (old_days between 1 and 999), rate_percent int not null default 25 check (rate_percent between 1 and 999)
    );
    insert into charge_review_settings default values;
    create table approval_rule (
      id uuid primary key default gen_random_uuid(), version int not null default 1, client_id uuid references client, kind text not null,
      after_days int check (after_days between 0 and 90), archived_at timestamptz
    );
    create unique index on approval_rule (kind, coalesce(client_id, '00000000-0000-0000-0000-000000000000')) where archived_at is null;
    alter table approval_rule enable row level security;
    create policy of_division on approval_rule to drumline_scoped using (client_id is null or exists (select from client o where o.id = approval_rule.client_id));
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(
    `drop table approval_rule; drop table charge_review_settings; alter table charge drop column oddities, drop column held_until, drop column held_why;`,
  );
}
