import type { Knex } from 'knex';

/** Bank statements and their lines, each matched with one payment or left out with a reason; payments that were taken back. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table bank_statement (
      id uuid primary key default time_ordered_id(), name text not null, account text not null, currency text not null,
      opening_minor bigint, closing_minor bigint, file_name text not null,
      -- The file as it came; null of what the demo made up.
      blob text, bytes int not null,
      lines int not null, known int not null, announced int not null,
      read_at timestamptz not null, who text not null, who_id uuid, who_name text not null
    );
    create table bank_line (
      id uuid primary key default gen_random_uuid(), statement_id uuid not null references bank_statement, position int not null,
      -- What tells it from all other lines of its account, however often a bank says it.
      key text not null unique,
      place text not null, bank_id text, booked_on date not null, amount_minor bigint not null, currency text not null,
      payer text not null, payer_account text not null, text text not null,
      state text not null default 'open' check (state in ('open','matched','left out','went out')),
      payment_id uuid unique references payment, reason text, unique (statement_id, position),
      check ((state = 'matched') = (payment_id is not null)), check ((state = 'left out') = (reason is not null)),
      check ((state = 'went out') = (amount_minor <= 0))
    );
    create index on bank_line (state, booked_on desc, id);
    create index on bank_line (payer_account) where payment_id is not null;
    -- What a bank said never changes; what it is taken for may.
    create function keep_bank_line() returns trigger language plpgsql as $$ begin
      if tg_op = 'DELETE' or to_jsonb(new) - '{state,payment_id,reason}'::text[] is distinct from to_jsonb(old) - '{state,payment_id,reason}'::text[] then raise exception 'what a bank said is append-only'; end if;
      return new; end $$;
    create trigger keep_bank_line before update or delete on bank_line for each row execute function keep_bank_line();
    create trigger only_append before update or delete on bank_statement for each row execute function refuse_change();
    alter table payment drop constraint payment_source_check, add constraint payment_source_check check (source in ('ledger','by hand','bank'));
    -- Money that is no payment after all: it was matched with the wrong client.
    create table payment_return (
      id uuid primary key default time_ordered_id(), payment_id uuid not null references payment, amount_minor bigint not null check (amount_minor > 0),
      at timestamptz not null, reason text not null
    );
    create index on payment_return (payment_id);
    create trigger only_append before update or delete on payment_return for each row execute function refuse_change();
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    drop table payment_return; drop table bank_line; drop table bank_statement; drop function keep_bank_line;
    alter table payment drop constraint payment_source_check, add constraint payment_source_check check (source in ('ledger','by hand'));
  `);
}
