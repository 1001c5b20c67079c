import type { Knex } from 'knex';

/** From which sum of a client's open tab on somebody is told; what a client asked about a charge, and the answer. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table tab_level (
      client_id uuid primary key references client, level_minor bigint not null check (level_minor > 0), person_id uuid not null references person,
      -- Once for each time that it is passed.
      told_at timestamptz
    );
    alter table tab_level enable row level security;
    create policy of_division on tab_level to drumline_scoped using (exists (select from client o where o.id = tab_level.client_id));
    create table charge_question (
      id uuid primary key default time_ordered_id(), charge_id uuid not null references charge on delete cascade, at timestamptz not null,
      who text not null, who_id uuid, who_name text not null, asked_by text not null, question text not null,
      answer text, answered_at timestamptz, answered_by text, check ((answer is null) = (answered_at is null)), check ((answer is null) = (answered_by is null))
    );
    create index on charge_question (charge_id);
    create function keep_question() returns trigger language plpgsql as $$ begin
      if old.answer is not null or to_jsonb(new) - '{answer,answered_at,answered_by}'::text[] is distinct from to_jsonb(old) - '{answer,answered_at,answered_by}'::text[] then raise exception 'a question is answered once'; end if;
      return new; end $$;
    create trigger keep_question before update on charge_question for each row execute function keep_question();
    alter table charge_question enable row level security;
    create policy of_division on charge_question to drumline_scoped using (exists (select from charge o where o.id = charge_question.charge_id));
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('drop table charge_question; drop function keep_question; drop table tab_level;');
}
