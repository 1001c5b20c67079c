import type { Knex } from 'knex';

/** Tables of a division themselves. Desks and series are the house's. */
const OF_DIVISION = ['client', 'ticket', 'charge', 'invoice'];
/** What a row can belong to, by the column that names it: it is seen where that is seen. */
const OWNERS: Readonly<Record<string, string>> = {
  ticket_id: 'ticket',
  one_id: 'ticket',
  other_id: 'ticket',
  client_id: 'client',
  invoice_id: 'invoice',
  charge_id: 'charge',
  message_id: 'message',
  time_entry_id: 'time_entry',
  entry_id: 'time_entry',
  expense_id: 'expense',
  booking_id: 'booking',
};
const SEEN = 'division_id = any ((select seen_divisions())::uuid[])';

/**
 * What a division has of its own, who has which access role in it, and what those see who have a role in some alone: the
 * database itself leaves out the rest, for every query of theirs, by the role `drumline_scoped` and the divisions that a
 * transaction of theirs names.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table division add column brand text, add column mail_from text, add column labour_tax jsonb, add column version int not null default 1;
    create unique index division_mail_from on division (lower(mail_from)) where mail_from is not null;
    -- Where somebody's role is another than everywhere else, or none.
    create table person_access (person_id uuid not null references person, division_id uuid not null references division, role text, primary key (person_id, division_id));
    alter table outbox add column division_id uuid;
    do $$ begin create role drumline_scoped nologin; exception when duplicate_object then null; end $$;
    grant drumline_scoped to current_user;
    grant usage on schema public to drumline_scoped;
    grant select, insert, update, delete on all tables in schema public to drumline_scoped;
    grant usage, select on all sequences in schema public to drumline_scoped;
    alter default privileges in schema public grant select, insert, update, delete on tables to drumline_scoped;
    alter default privileges in schema public grant usage, select on sequences to drumline_scoped;
    create function seen_divisions() returns uuid[] language sql stable as $$ select current_setting('drumline.divisions')::uuid[] $$;
    -- When people are booked in divisions that are not seen: that they are, and nothing else of it.
    create function booked_elsewhere(people uuid[], from_at timestamptz, to_at timestamptz) returns table (person_id uuid, starts_at timestamptz, ends_at timestamptz)
      language sql stable security definer set search_path = public as $$
      select b.person_id, b.starts_at, b.ends_at from booking b join ticket t on t.id = b.ticket_id
       where b.person_id = any (people) and b.state <> 'cancelled' and b.starts_at < to_at and b.ends_at > from_at
         and t.division_id <> all (nullif(current_setting('drumline.divisions', true), '')::uuid[]) $$;
    -- The queue is nobody's division: what is queued in a command is queued as the house.
    create function queue_job(task text, payload json, after_seconds int, key text) returns void language sql security definer set search_path = public as $$
      select graphile_worker.add_job(task, payload, run_at := now() + make_interval(secs => after_seconds), job_key := key, max_attempts := 25) $$;
    create function unqueue_job(key text) returns void language sql security definer set search_path = public as $$ select graphile_worker.remove_job(key) $$;
    alter view work_facts set (security_invoker = true);
  `);
  for (const table of OF_DIVISION) await scope(knex, table, SEEN);
  for (const [table, columns] of await ownedTables(knex)) {
    const owners = columns.map((c) => `(${table}.${c} is null or exists (select from ${OWNERS[c]} o where o.id = ${table}.${c}))`);
    await scope(knex, table, [...(table === 'event' ? [`(division_id is null or ${SEEN})`] : []), ...owners].join(' and '));
  }
}

/** Each other table with the columns of it that name an owner, by their type and name. */
async function ownedTables(knex: Knex): Promise<Map<string, string[]>> {
  const { rows } = await knex.raw(
    `select c.table_name, c.column_name from information_schema.columns c join information_schema.tables t using (table_schema, table_name)
     where c.table_schema = 'public' and t.table_type = 'BASE TABLE' and c.udt_name = 'uuid' and c.column_name = any (?) order by 1, 2`,
    [Object.keys(OWNERS)],
  );
  const tables = new Map<string, string[]>();
  for (const { table_name: table, column_name: column } of rows as Record<string, string>[])
    if (!OF_DIVISION.includes(table!)) tables.set(table!, [...(tables.get(table!) ?? []), column!]);
  return tables;
}

/** Written in one statement with their ticket, which is not seen before that ends. */
const WITH_TICKET = ['ticket_fact', 'ticket_clock'];

async function scope(knex: Knex, table: string, rule: string): Promise<void> {
  await knex.raw(`
    alter table ${table} enable row level security;
    create policy of_division on ${table} to drumline_scoped using (${rule})${WITH_TICKET.includes(table) ? ' with check (true)' : ''}`);
}

export async function down(knex: Knex): Promise<void> {
  for (const table of [...OF_DIVISION, ...(await ownedTables(knex)).keys()])
    await knex.raw(`drop policy of_division on ${table}; alter table ${table} disable row level security`);
  await knex.raw(`
    alter view work_facts reset (security_invoker);
    drop function queue_job; drop function unqueue_job; drop function seen_divisions; drop function booked_elsewhere;
    alter default privileges in schema public revoke all on tables from drumline_scoped;
    alter default privileges in schema public revoke all on sequences from drumline_scoped;
    revoke all on all tables in schema public from drumline_scoped; revoke all on all sequences in schema public from drumline_scoped;
    revoke usage on schema public from drumline_scoped;
    alter table outbox drop column division_id;
    drop table person_access;
    alter table division drop column brand, drop column mail_from, drop column labour_tax, drop column version;
  `);
}
