import type { Knex } from 'knex';

/** Reminders of what is overdue: their steps, what was sent of which invoice, and pauses. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table reminder_settings (
      id int primary key default 1 check (id = 1),
      by_themselves boolean not null default false, version int not null default 1
    );
    insert into reminder_settings default values;
    create table reminder_step (position int primary key, after_days int not null unique check (after_days > 0), subject text not null, text text not null);
    insert into reminder_step (position, after_days, subject, text) values
      (1, 7, 'A reminder: {invoices}', E'Hello {client},\\n\\nperhaps it slipped by: we have not yet received\\n\\n{invoices}\\n\\n{total} in all. If it is on its way, thank you, and nothing is to be done.\\n\\n{us}'),
      (2, 21, 'Second reminder: {invoices}', E'Hello {client},\\n\\nwe have written before, and these are still open:\\n\\n{invoices}\\n\\nPlease pay {total} within a week, or tell us what is in the way.\\n\\n{us}'),
      (3, 35, 'Last reminder: {invoices}', E'Hello {client},\\n\\nthis is our last reminder of\\n\\n{invoices}\\n\\n{total} in all. Please call us this week, so that we can go on working for you as usual.\\n\\n{us}');
    create table reminder (
      id uuid primary key default time_ordered_id(), client_id uuid not null references client, step int not null,
      mail_to text not null, subject text not null, text text not null,
      at timestamptz not null, who text not null, who_id uuid, who_name text not null,
      mailed_at timestamptz, undelivered_at timestamptz
    );
    create index on reminder (client_id, at desc);
    create table reminder_invoice (
      reminder_id uuid not null references reminder, invoice_id uuid not null references invoice, step int not null, on_date date not null,
      left_minor bigint not null, primary key (reminder_id, invoice_id), unique (invoice_id, step)
    );
    create trigger only_append before update or delete on reminder_invoice for each row execute function refuse_change();
    create function keep_reminder() returns trigger language plpgsql as $$ begin
      if tg_op = 'DELETE' or to_jsonb(new) - '{mailed_at,undelivered_at}'::text[] is distinct from to_jsonb(old) - '{mailed_at,undelivered_at}'::text[] then raise exception 'a reminder is append-only'; end if;
      return new; end $$;
    create trigger keep_reminder before update or delete on reminder for each row execute function keep_reminder();
    create table reminder_pause (
      id uuid primary key default gen_random_uuid(), client_id uuid not null references client, invoice_id uuid references invoice,
      until date, reason text not null, at timestamptz not null, who text not null, who_id uuid, who_name text not null, ended_at timestamptz
    );
    create index on reminder_pause (client_id) where ended_at is null;
    alter table reminder enable row level security;
    create policy of_division on reminder to drumline_scoped using (exists (select from client o where o.id = reminder.client_id));
    alter table reminder_invoice enable row level security;
    create policy of_division on reminder_invoice to drumline_scoped using (exists (select from invoice o where o.id = reminder_invoice.invoice_id));
    alter table reminder_pause enable row level security;
    create policy of_division on reminder_pause to drumline_scoped using (exists (select from client o where o.id = reminder_pause.client_id));
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(
    'drop table reminder_pause; drop table reminder_invoice; drop table reminder; drop function keep_reminder; drop table reminder_step; drop table reminder_settings;',
  );
}
