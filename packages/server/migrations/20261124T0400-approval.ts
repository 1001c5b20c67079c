import type { Knex } from 'knex';

/** Time is approved, and locked from then on: what is wrong with it is put right by a row of its own. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table time_entry
      add column approval text not null default 'open' check (approval in ('open','approved','returned')),
      add column corrects uuid references time_entry,
      add column corrected_at timestamptz,
      add column corrected_from int,
      drop constraint time_entry_minutes_check,
      add constraint time_entry_minutes_check check (minutes > 0 or (corrects is not null and minutes <> 0)),
      add check ((corrects is null) = (corrected_at is null)), add check ((corrects is null) = (corrected_from is null));
    create index time_entry_correction on time_entry (corrects) where corrects is not null;
    -- Who decided what of time and expenses, and why; nothing in it is ever changed.
    create table time_decision (
      id bigserial primary key, entry_id uuid references time_entry, expense_id uuid, at timestamptz not null, who text not null check (who in ('person','contact','job','rule','system','nobody')), who_id uuid, who_name text not null,
      decision text not null check (decision in ('approve','return','take back','change')), remark text, was jsonb, check ((entry_id is null) <> (expense_id is null))
    );
    create index on time_decision (entry_id);
    create index on time_decision (expense_id);
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    drop table time_decision;
    delete from time_entry where corrects is not null;
    alter table time_entry drop column corrected_from, drop column corrected_at, drop column corrects, drop column approval, add check (minutes > 0);
  `);
}
